import { describe, expect, it } from 'vitest';
import { REFERENCE_WHITE } from '../programme/colour.ts';
import { inTransfer, quantisedLight } from './brightness.ts';

describe('a colour of ordinary screens', () => {
  it('is as bright as white paper in high dynamic range', () => {
    // 58 % of PQ and 75 % of HLG (ITU-R BT.2408, table 1).
    expect(quantisedLight(REFERENCE_WHITE)).toBeCloseTo(0.58, 2);
    expect(inTransfer([255, 255, 255], 'smpte2084')[0] / 255).toBeCloseTo(0.58, 2);
    expect(inTransfer([255, 0, 255], 'arib-std-b67')).toEqual([191.25, 0, 191.25]);
  });

  it('stays black where it is black, and what it is in standard range', () => {
    for (const transfer of ['smpte2084', 'arib-std-b67', 'bt709']) {
      expect(inTransfer([0, 0, 0], transfer).map((value) => Math.round(value))).toEqual([0, 0, 0]);
    }
    expect(inTransfer([12, 99, 255], 'bt709')).toEqual([12, 99, 255]);
  });

  it('is the brightest there is at 10,000 cd/m² (SMPTE ST 2084)', () => {
    expect(quantisedLight(10_000)).toBeCloseTo(1, 9);
    // 100 cd/m² are half of it, about (from memory).
    expect(quantisedLight(100)).toBeCloseTo(0.508, 3);
  });
});
