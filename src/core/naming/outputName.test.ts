import { describe, expect, it } from 'vitest';
import { faultInName, numberName, proposeOutputName, withEnding } from './outputName.ts';

const PICTURE = { size: { width: 1280, height: 720 }, codec: 'H.264' } as const;

describe('output names', () => {
  it('tell programme, frame size and codec', () => {
    expect(proposeOutputName('Slow sky.mov', null, PICTURE, '.mp4')).toBe('Slow sky 1280x720 h264.mp4');
    expect(proposeOutputName('Guide.wav', null, null, '.m4a')).toBe('Guide sound.m4a');
    expect(proposeOutputName('Talk.mov', 'Opening/words', PICTURE, '.mp4')).toBe(
      'Talk, Opening-words 1280x720 h264.mp4',
    );
  });

  it('leave out what a file name cannot hold, and stay short', () => {
    expect(proposeOutputName('a/b:c"d\u202e\n.mov', null, PICTURE, '.mp4')).toBe('a-b-c-d 1280x720 h264.mp4');
    const long = proposeOutputName(`${'ä'.repeat(300)}.mov`, 'ö'.repeat(200), PICTURE, '.mp4');
    expect(new TextEncoder().encode(long).length).toBeLessThanOrEqual(180);
  });

  it('end as their container does', () => {
    expect(withEnding('a.mp4', '.mp4')).toBe('a.mp4');
    expect(withEnding('a.MP4', '.mp4')).toBe('a.MP4');
    expect(withEnding('a.exe', '.mp4')).toBe('a.exe.mp4');
    expect(withEnding('v1.2', '.m4a')).toBe('v1.2.m4a');
  });

  it('get a number before the extension', () => {
    expect(numberName('a.b.mp4', 2)).toBe('a.b 2.mp4');
    expect(numberName('plain', 3)).toBe('plain 3');
  });

  it('are refused with what is wrong', () => {
    for (const name of ['', '  ', '../x.mp4', 'a\\b.mp4', 'a\nb.mp4', '.hidden.mp4', 'x'.repeat(300)])
      expect(faultInName(name)).toMatch(/\.$/);
    expect(faultInName('Good name (2).mp4')).toBeNull();
  });
});
