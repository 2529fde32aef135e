import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bitsPerSecond, bytes, type BitsPerSecond } from '../units.ts';
import { RATED } from '../video/codecs.ts';
import type { FillWay } from './dial.ts';
import { decideFill, USUAL_SECOND_PASSES } from './fillCap.ts';
import { AIM_SHARE, splitBudget } from './splitBudget.ts';
import { FILLED_SHARE, type WeighedPass, type WeighedRetouch } from './weighed.ts';

const H264: FillWay = { by: 'rates', scale: RATED.h264.quality };
const HEVC: FillWay = { by: 'rates', scale: RATED.hevc.quality };

const CAP = bytes(10_000_000);
const FIXED = 400_000;

function pass(asked: number, video: number, meanQuantiser: number | null = 28): WeighedPass {
  const weighed = { asked: bitsPerSecond(asked), videoBytes: bytes(video), fileBytes: bytes(video + FIXED) };
  return { ...weighed, meanQuantiser, groups: [] };
}

describe('filling a cap', () => {
  it('takes a pass that is under the cap and fills it', () => {
    expect(decideFill(CAP, H264, [pass(3e6, 9_550_000)], [])).toEqual({ kind: 'take', index: 0, reason: 'filled' });
  });

  it('asks for less after an overshoot, in proportion', () => {
    const decision = decideFill(CAP, H264, [pass(3_000_000, 10_200_000)], []);
    expect(decision).toMatchObject({ kind: 'again' });
    if (decision.kind === 'again')
      expect(decision.asked / 3_000_000).toBeCloseTo((10_000_000 * AIM_SHARE - FIXED) / 10_200_000, 3);
  });

  it('asks for more when clearly under and the encoder still has bits to spend', () => {
    const decision = decideFill(CAP, H264, [pass(3_000_000, 9_000_000)], []);
    expect(decision).toMatchObject({ kind: 'again' });
    if (decision.kind === 'again') expect(decision.asked).toBeGreaterThan(3_000_000);
  });

  it('stops when every frame is at the finest sensible quality', () => {
    expect(decideFill(CAP, HEVC, [pass(3e6, 5_000_000, 12.1)], [])).toEqual({
      kind: 'take',
      index: 0,
      reason: 'saturated',
    });
  });

  it('keeps the first of equal passes when asking for more changed nothing', () => {
    const passes = [pass(3e6, 5_000_000, 14), pass(12e6, 5_000_000, 14)];
    expect(decideFill(CAP, H264, passes, [])).toEqual({ kind: 'take', index: 0, reason: 'saturated' });
  });

  it('takes an answer that went the wrong way for scatter while bits are left to spend', () => {
    const passes = [pass(2.4e6, 8_900_000, 22), pass(2.6e6, 8_700_000, 21)];
    expect(decideFill(CAP, H264, passes, [])).toMatchObject({ kind: 'again' });
    const over = [pass(2.6e6, 9_900_000, 22), pass(2.4e6, 9_950_000, 22)];
    expect(decideFill(CAP, H264, over, [])).toMatchObject({ kind: 'again' });
  });

  it('does not take a size that jumps between two rates for an encoder at its finest', () => {
    const clip = (asked: number, video: number, quantiser: number) => ({
      ...pass(asked, video, quantiser),
      groups: [video],
    });
    const jumping = [clip(539_000, 14_000_000, 20.7), clip(367_000, 8_400_000, 19.5), clip(411_000, 7_500_000, 18.4)];
    expect(decideFill(CAP, H264, jumping, []).kind).toBe('again');
  });

  it('goes on at a mean quantiser that merely is fine', () => {
    expect(decideFill(CAP, HEVC, [pass(3e6, 9_400_000, 14)], [])).toMatchObject({ kind: 'again' });
  });

  it('says so when the encoder is at its coarsest and still over', () => {
    const outcome = decideFill(CAP, H264, [pass(50_000, 60_000_000, 51)], []);
    expect(outcome).toEqual({ kind: 'over', reason: 'floor' });
  });

  it('sees a floor without quantisers when asking for less changes nothing', () => {
    const passes = [pass(100_000, 12_000_000, null), pass(70_000, 11_990_000, null)];
    expect(decideFill(CAP, H264, passes, [])).toMatchObject({ kind: 'over', reason: 'floor' });
  });

  it('tries on, lower, when three passes were over that cannot be joined, and then says so', () => {
    const three = [pass(3.3e6, 10_300_000), pass(3.1e6, 9_900_000), pass(2.95e6, 9_620_000)];
    const decision = decideFill(CAP, H264, three, []);
    expect(decision).toMatchObject({ kind: 'again' });
    if (decision.kind === 'again') expect(decision.asked).toBeLessThan(2.95e6);
    const six = [...three, pass(2.8e6, 9_615_000), pass(2.7e6, 9_612_000), pass(2.6e6, 9_611_000)];
    expect(decideFill(CAP, H264, six, [])).toMatchObject({ kind: 'over', reason: 'passes-spent' });
  });

  it('spends a fourth pass between the nearest on both sides when three left the cap unfilled', () => {
    const passes = [pass(3.0e6, 8_500_000), pass(3.6e6, 10_500_000), pass(3.2e6, 9_000_000)];
    const decision = decideFill(CAP, H264, passes, []);
    expect(decision.kind).toBe('again');
    if (decision.kind !== 'again') return;
    expect(decision.asked).toBeGreaterThan(3.2e6);
    expect(decision.asked).toBeLessThan(3.6e6);
  });

  it('goes on longer with a clip of a single group of pictures, which cannot be joined', () => {
    const clip = (asked: number, video: number) => ({ ...pass(asked, video), groups: [video] });
    const five = [
      clip(3.0e6, 8_000_000),
      clip(3.7e6, 8_900_000),
      clip(4.2e6, 9_750_000),
      clip(4.1e6, 9_620_000),
      clip(4.0e6, 9_480_000),
    ];
    expect(decideFill(CAP, H264, five, []).kind).toBe('again');
    const six = [...five, clip(4.05e6, 9_490_000)];
    expect(decideFill(CAP, H264, six, [])).toEqual({ kind: 'take', index: 5, reason: 'passes-spent' });
  });

  it('ends when no whole kilobit is left between a rate that is over and one that is short', () => {
    const shut = [pass(3.501e6, 9_900_000), pass(3.5e6, 9_000_000)];
    expect(decideFill(CAP, H264, shut, [])).toEqual({ kind: 'take', index: 1, reason: 'passes-spent' });
  });

  it('looks between neighbouring rates where the size falls while the rate rises', () => {
    const passes = [pass(3.0e6, 8_700_000), pass(3.4e6, 10_400_000), pass(3.3e6, 10_500_000)];
    const decision = decideFill(CAP, H264, passes, []);
    expect(decision.kind).toBe('again');
    if (decision.kind !== 'again') return;
    expect(decision.asked).toBeGreaterThan(3.0e6);
    expect(decision.asked).toBeLessThan(3.3e6);
  });

  it('tries again when it is over at nearly the coarsest quantiser, and sees the floor where less changes nothing', () => {
    const coarse = (asked: number, file: number) => ({ ...pass(asked, file - 150_000, 50.9), fileBytes: bytes(file) });
    expect(decideFill(CAP, H264, [coarse(0.4e6, CAP * 1.3)], []).kind).toBe('again');
    const floor = [coarse(0.4e6, CAP * 1.3), coarse(0.3e6, CAP * 1.299)];
    expect(decideFill(CAP, H264, floor, [])).toMatchObject({ kind: 'over', reason: 'floor' });
  });

  it('keeps the fullest fitting pass when the last one is over', () => {
    const passes = [pass(3.0e6, 9_300_000), pass(3.1e6, 9_450_000), pass(3.2e6, 9_700_000), pass(3.15e6, 9_900_000)];
    const six = [...passes, pass(3.11e6, 9_620_000), pass(3.105e6, 9_610_000)];
    expect(decideFill(CAP, H264, six, [])).toEqual({ kind: 'take', index: 1, reason: 'passes-spent' });
  });

  describe('by joining passes', () => {
    /** A pass whose groups weigh these shares of its picture. */
    const grouped = (asked: number, video: number, shares: readonly number[]) => ({
      ...pass(asked, video),
      groups: shares.map((share) => Math.round(share * video)),
    });

    it('takes groups of a pass that was over and of one that was short, as soon as they fill the cap', () => {
      const passes = [
        grouped(3.0e6, 9_900_000, [0.24, 0.26, 0.22, 0.28]),
        grouped(2.9e6, 9_000_000, [0.25, 0.25, 0.25, 0.25]),
      ];
      const decision = decideFill(CAP, H264, passes, []);
      expect(decision.kind).toBe('join');
      if (decision.kind !== 'join') return;
      const joined = decision.sources.reduce((sum, { index }, group) => sum + passes[index]!.groups[group]!, FIXED);
      expect(joined).toBeLessThanOrEqual(CAP);
      expect(joined).toBeGreaterThanOrEqual(CAP * FILLED_SHARE);
    });

    it('leaves out a pass that looks too different', () => {
      const passes = [
        grouped(3.0e6, 9_900_000, [0.24, 0.26, 0.22, 0.28]),
        { ...grouped(2.9e6, 7_000_000, [0.25, 0.25, 0.25, 0.25]), meanQuantiser: 31 },
      ];
      expect(decideFill(CAP, H264, passes, []).kind).not.toBe('join');
    });

    it('encodes one group again by itself where little is missing or too much, and takes it', () => {
      const short = [grouped(3.0e6, 9_400_000, [0.24, 0.26, 0.22, 0.28])];
      const asked = decideFill(CAP, H264, short, []);
      // The largest group changes least; it becomes larger by what is missing from the middle of what counts as filled.
      expect(asked).toMatchObject({ kind: 'retouch', group: 3 });
      if (asked.kind !== 'retouch') return;
      const wanted = CAP * 0.995 - FIXED - 0.72 * 9_400_000;
      // The mean quantiser of the pass is 28; six steps of quality change the size by a factor of about two.
      expect(asked.quality).toBeCloseTo(26 - Math.log(wanted / (0.28 * 9_400_000)) / 0.14, 1);
      const missed = { group: 3, quality: asked.quality, bytes: bytes(wanted * 1.25) };
      const again = decideFill(CAP, H264, short, [missed]);
      expect(again).toMatchObject({ kind: 'retouch', group: 3 });
      if (again.kind === 'retouch') expect(again.quality - asked.quality).toBeCloseTo(Math.log(1.25) / 0.14, 1);
      const retouch = { group: 3, quality: asked.quality, bytes: bytes(wanted * 1.01) };
      const decision = decideFill(CAP, H264, short, [retouch]);
      expect(decision).toMatchObject({ kind: 'join' });
      if (decision.kind === 'join') expect(decision.sources[3]).toEqual({ kind: 'retouch', index: 0 });
      expect(decideFill(CAP, H264, [grouped(3.0e6, 9_700_000, [0.24, 0.26, 0.22, 0.28])], []).kind).toBe('retouch');
    });

    it('runs the whole again where one group would have to change so much that it shows', () => {
      const far = [grouped(3.0e6, 8_700_000, [0.24, 0.26, 0.22, 0.28])];
      expect(decideFill(CAP, H264, far, []).kind).toBe('again');
      const many = [
        grouped(
          3.0e6,
          9_400_000,
          Array.from({ length: 100 }, () => 0.01),
        ),
      ];
      expect(decideFill(CAP, H264, many, []).kind).toBe('again');
    });

    it('rescues three passes that were all over, and that cannot be joined, by one group made smaller', () => {
      const shares = [0.3, 0.2, 0.25, 0.25];
      const passes = [9_800_000, 9_700_000, 9_690_000].map((size, index) => grouped(3.3e6 - index * 1e5, size, shares));
      const decision = decideFill(CAP, H264, passes, []);
      expect(decision).toMatchObject({ kind: 'retouch', group: 0 });
      if (decision.kind === 'retouch') expect(decision.quality).toBeGreaterThan(26);
    });

    it('turns to another group when one cannot stand in the file, and ends when all were tried', () => {
      const passes = [grouped(3.0e6, 9_400_000, [0.45, 0.55])];
      const unfit = (group: number) => ({ group, quality: 26, bytes: null });
      expect(decideFill(CAP, H264, passes, [unfit(1)])).toMatchObject({ kind: 'retouch', group: 0 });
      expect(decideFill(CAP, H264, passes, [unfit(1), unfit(0)]).kind).toBe('again');
      const three = [...passes, grouped(3.1e6, 9_420_000, [0.45, 0.55]), grouped(3.2e6, 9_410_000, [0.45, 0.55])];
      const outcome = decideFill(CAP, H264, three, [unfit(1), unfit(0)]);
      expect(outcome).toEqual({ kind: 'take', index: 1, reason: 'passes-spent' });
    });
  });

  // The scatter of real encoders on short programmes: −3 to +7 % at first, ±0.45 % once corrected (measured).
  it('is never over and filled within three passes for any encoder of the measured scatter', () => {
    const misses = fc.tuple(
      fc.double({ min: 0.97, max: 1.07, noNaN: true }),
      fc.double({ min: -0.0045, max: 0.0045, noNaN: true }),
      fc.double({ min: -0.0045, max: 0.0045, noNaN: true }),
    );
    fc.assert(
      fc.property(fc.integer({ min: 10_000_000, max: 1_000_000_000 }), misses, (size, [bias, second, third]) => {
        const cap = bytes(size);
        const { video } = splitBudget(cap, bytes(size * 0.04), bytes(size * 0.01));
        const scatter = [0, second, third];
        const passes: WeighedPass[] = [];
        let rate = bitsPerSecond((video * AIM_SHARE * 8) / 60);
        for (;;) {
          const encoded = ((rate * 60) / 8) * bias * (1 + (scatter[passes.length] ?? 0));
          passes.push({
            asked: rate,
            videoBytes: bytes(encoded),
            fileBytes: bytes(encoded + size * 0.05),
            meanQuantiser: 27,
            groups: [],
          });
          const decision = decideFill(cap, H264, passes, []);
          if (decision.kind === 'again') {
            rate = bitsPerSecond(decision.asked);
            continue;
          }
          expect(passes.length).toBeLessThanOrEqual(USUAL_SECOND_PASSES);
          expect(decision.kind).toBe('take');
          if (decision.kind !== 'take') return;
          const taken = passes[decision.index]!.fileBytes;
          expect(taken).toBeLessThanOrEqual(cap);
          expect(taken).toBeGreaterThanOrEqual(cap * FILLED_SHARE);
          return;
        }
      }),
      { seed: 3, numRuns: 500 },
    );
  });
});

describe('an encoder that keeps noise or drops it', () => {
  const kept = (from: number, most: number, at: number, sharp: number, rate: number) =>
    from + most / (1 + Math.exp(-sharp * Math.log(rate / at)));

  /** Measured on drawn noise: a group of 12 kB at one rate is one of 200 kB at a rate a fifth higher. */
  const encode = (cliff: number, steep: number, top: number, rate: number, scatter: () => number) =>
    [213_000, 2000, 8000, 2400, kept(7000, 12_000, 140_000, 15, rate), kept(9000, 60_000, 140_000, 12, rate)]
      .concat(kept(6000, top, cliff, steep, rate))
      .map((size) => Math.round(size * (1 + 0.02 * scatter())));

  /**
   * At a constant quality: six steps are a factor of two, and from one quality on noise is kept and the size jumps, as
   * measured on drawn noise (9 kB at 21, 40 kB at 19, 108 kB at 18).
   */
  const encodeAlone = (group: number, quality: number, jump: number, scatter: () => number) => {
    const [plain, noise] = [[200_000, 2000, 8000, 2400, 8000, 12_000, 8000][group]!, group === 0 ? 400_000 : 200_000];
    const size = plain * 2 ** ((22 - quality) / 6) + noise / (1 + Math.exp(2.5 * (quality - jump)));
    return Math.round(size * (1 + 0.01 * scatter()));
  };

  it('is never over, and fills nearly every cap with at most three passes and a few groups again', () => {
    const random = seeded(11);
    const scatter = () => 2 * random() - 1;
    const fills = Array.from({ length: 200 }, () => {
      const cap = bytes(Math.round(330_000 + 250_000 * random()));
      const [cliff, steep, top] = [115_000 + 14_000 * random(), 15 + 25 * random(), 180_000 + 80_000 * random()];
      const jump = 17 + 3 * random();
      const passes: WeighedPass[] = [];
      const retouches: WeighedRetouch[] = [];
      let decision = decideAfter(bitsPerSecond(((cap - 66_000) * AIM_SHARE * 8) / 24));
      function decideAfter(asked: BitsPerSecond) {
        const groups = encode(cliff, steep, top, asked, scatter);
        const videoBytes = bytes(groups.reduce((sum, group) => sum + group, 0));
        const meanQuantiser = 22 - 6 * Math.log2(asked / 126_000);
        passes.push({ asked, videoBytes, fileBytes: bytes(videoBytes + 66_000), meanQuantiser, groups });
        return decideFill(cap, H264, passes, retouches);
      }
      while (decision.kind === 'again' || decision.kind === 'retouch') {
        if (decision.kind === 'again') {
          decision = decideAfter(bitsPerSecond(decision.asked));
          continue;
        }
        const { group, quality } = decision;
        retouches.push({ group, quality, bytes: bytes(encodeAlone(group, quality, jump, scatter)) });
        decision = decideFill(cap, H264, passes, retouches);
      }
      expect(passes.length).toBeLessThanOrEqual(USUAL_SECOND_PASSES);
      expect(['take', 'join']).toContain(decision.kind);
      const taken =
        decision.kind === 'join'
          ? decision.sources.reduce(
              (sum, { kind, index }, group) =>
                sum + (kind === 'pass' ? passes[index]!.groups[group]! : retouches[index]!.bytes!),
              66_000,
            )
          : decision.kind === 'take'
            ? passes[decision.index]!.fileBytes
            : NaN;
      expect(taken).toBeLessThanOrEqual(cap);
      return taken / cap;
    });
    expect(fills.filter((fill) => fill < FILLED_SHARE).length).toBeLessThanOrEqual(4);
    expect(Math.min(...fills)).toBeGreaterThan(0.98);
  });
});

/** Numbers from 0 to 1, the same every time. */
function seeded(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 1_103_515_245 + 12_345) % 2 ** 31) / 2 ** 31;
}

describe('splitting a budget', () => {
  it('leaves nothing below zero', () => {
    expect(splitBudget(bytes(1), bytes(100), bytes(50)).video).toBe(0);
  });

  it('adds up to the cap', () => {
    const split = splitBudget(CAP, bytes(192_000), bytes(12_345));
    expect(split.video + split.audio + split.container).toBe(CAP);
  });
});
