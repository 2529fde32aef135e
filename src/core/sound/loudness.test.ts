import { describe, expect, it } from 'vitest';
import { correctGain, firstGain, keepsLevel, writeLevel } from './loudness.ts';

const TARGET = { lufs: -16, truePeakDbtp: -1 };

describe('the gain that brings a sound to a level', () => {
  it('is the difference, where no peak comes near the ceiling', () => {
    expect(firstGain({ lufs: -23, truePeakDbtp: -12 }, TARGET, true)).toEqual({ db: 7, limitDbtp: null });
    expect(firstGain({ lufs: -9, truePeakDbtp: 0.4 }, TARGET, true)).toEqual({ db: -7, limitDbtp: null });
  });

  it('holds peaks that would go over, lower where encoding lifts them', () => {
    expect(firstGain({ lufs: -23, truePeakDbtp: -3 }, TARGET, true)).toEqual({ db: 7, limitDbtp: -2 });
    expect(firstGain({ lufs: -23, truePeakDbtp: -3 }, TARGET, false)).toEqual({ db: 7, limitDbtp: -1.2 });
    expect(firstGain({ lufs: -23, truePeakDbtp: -8.5 }, TARGET, true).limitDbtp).toBe(-2);
    expect(firstGain({ lufs: -23, truePeakDbtp: -8.5 }, TARGET, false).limitDbtp).toBeNull();
  });

  it('is none for silence', () => {
    expect(firstGain({ lufs: -Infinity, truePeakDbtp: -Infinity }, TARGET, true)).toEqual({ db: 0, limitDbtp: null });
    expect(correctGain({ db: 0, limitDbtp: null }, { lufs: -Infinity, truePeakDbtp: -90 }, TARGET)).toBeNull();
  });
});

describe('a gain that is corrected by what came of it', () => {
  it('stays where it is close and under the ceiling', () => {
    expect(correctGain({ db: 7, limitDbtp: -2 }, { lufs: -16.1, truePeakDbtp: -1 }, TARGET)).toBeNull();
  });

  it('makes up for what limiting took', () => {
    const better = correctGain({ db: 7, limitDbtp: -2 }, { lufs: -16.8, truePeakDbtp: -1.3 }, TARGET);
    expect(better?.db).toBeCloseTo(7.8, 9);
    expect(better?.limitDbtp).toBe(-2);
  });

  it('lowers its limit by what peaks went over, or begins to hold them', () => {
    const lower = correctGain({ db: 7, limitDbtp: -2 }, { lufs: -16, truePeakDbtp: -0.4 }, TARGET);
    expect(lower?.limitDbtp).toBeCloseTo(-2.7, 9);
    const held = correctGain({ db: 7, limitDbtp: null }, { lufs: -16, truePeakDbtp: -0.8 }, TARGET);
    expect(held?.limitDbtp).toBeCloseTo(-1.3, 9);
  });
});

describe('whether a sound keeps to a level', () => {
  it.each([
    [-16.5, -1, true],
    [-15.5, -3, true],
    [-16.6, -3, false],
    [-15.4, -3, false],
    [-16, -0.9, false],
    [-Infinity, -Infinity, true],
  ])('%d LUFS with peaks at %d dBTP: %s', (lufs, truePeakDbtp, keeps) => {
    expect(keepsLevel({ lufs, truePeakDbtp }, TARGET)).toBe(keeps);
  });

  it('is told with a real minus sign', () => {
    expect(writeLevel(-16)).toBe('−16.0');
    expect(writeLevel(3.25, 0)).toBe('3');
  });
});
