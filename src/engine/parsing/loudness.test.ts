import { describe, expect, it } from 'vitest';
import { parseLoudness } from './loudness.ts';

const summary = (lufs: string, peak: string) => `[Parsed_ebur128_0 @ 0x1] Summary:

  Integrated loudness:
    I:         ${lufs} LUFS
    Threshold: -33.4 LUFS

  Loudness range:
    LRA:         4.2 LU
    Threshold: -43.4 LUFS
    LRA low:   -27.1 LUFS
    LRA high:  -22.9 LUFS

  True peak:
    Peak:       ${peak} dBFS
`;

describe('the loudness meter’s last words', () => {
  it('are read, whatever came before them', () => {
    const log = `I: -70.0 LUFS before\n${summary('-23.1', '-1.2')}`;
    expect(parseLoudness(log)).toEqual({ lufs: -23.1, truePeakDbtp: -1.2 });
  });

  it('say nothing passed its gate by their floor', () => {
    expect(parseLoudness(summary('-70.0', '-inf'))).toEqual({ lufs: -Infinity, truePeakDbtp: -Infinity });
  });

  it('are missing where it did not come to its end', () => {
    expect(parseLoudness('Conversion failed!')).toBeNull();
  });
});
