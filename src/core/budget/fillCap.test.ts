import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bytes } from '../units.ts';
import { RATED, RATED_CODECS } from '../video/codecs.ts';
import type { QualityScale } from '../video/definition.ts';
import { decideFill, isInReach, type Fill, type FillDecision } from './fillCap.ts';
import { splitBudget } from './splitBudget.ts';
import { FILLED_SHARE, type WeighedPass, type WeighedRetouch } from './weighed.ts';

const H264 = RATED.h264.quality;
const CAP = bytes(10_000_000);
const FIXED = 400_000;

function pass(quality: number, video: number, groups: readonly number[] = []): WeighedPass {
  return { quality, videoBytes: bytes(video), fileBytes: bytes(video + FIXED), groups };
}

/** So many groups of one size each. */
function even(quality: number, video: number, count = 10): WeighedPass {
  return pass(
    quality,
    video,
    Array.from({ length: count }, () => video / count),
  );
}

function decide(passes: readonly WeighedPass[], changes: Partial<Fill> = {}): FillDecision {
  return decideFill({
    cap: CAP,
    scale: H264,
    passes,
    foreseen: [],
    retouches: [],
    losses: null,
    joinedMore: 0,
    ...changes,
  });
}

/** Logarithm of the size that an encode is aimed at beside the cap, while all lie on its other side. */
const BESIDE = 0.05;

describe('filling a cap', () => {
  it('takes an encode that is under the cap and fills it', () => {
    expect(decide([even(23, 9_570_000)])).toEqual({ kind: 'take', index: 0, reason: 'filled' });
    expect(decide([even(23, 9_610_000)]).kind).not.toBe('take');
  });

  it('encodes the whole again where the cap is out of reach of its groups, by the slope that is usual', () => {
    const over = decide([even(23, 14_000_000)]);
    // A little to the other side of the cap, so that the two lie around it.
    const expected = 23 + (Math.log((CAP * 0.9975 - FIXED) / 14_000_000) - BESIDE) / H264.slope;
    expect(over).toEqual({ kind: 'again', quality: expect.closeTo(expected, 1) as number });
    expect(decide([even(23, 6_000_000)])).toMatchObject({ kind: 'again' });
    expect(isInReach(CAP, [even(23, 6_000_000)])).toBe(false);
    // Between two it is the cap itself that is aimed at.
    const between = decide([even(20, 14_000_000), even(30, 5_000_000)]);
    expect(between.kind).toBe('again');
    const [logs, at] = [[14, 5].map((one) => Math.log(one * 1e6)), Math.log(CAP * 0.9975 - FIXED)];
    const share = (logs[0]! - at) / (logs[0]! - logs[1]!);
    expect(between).toMatchObject({ quality: expect.closeTo(20 + 10 * share, 1) as number });
  });

  it('or as the programme itself was foreseen to answer: grain that is dropped within a few steps', () => {
    const foreseen = [
      { quality: 18, bitsPerSecond: 40_000 },
      { quality: 22, bitsPerSecond: 30_000 },
      { quality: 26, bitsPerSecond: 3000 },
      { quality: 32, bitsPerSecond: 1500 },
    ];
    const video = CAP * 0.9975 - FIXED;
    // Twice too large at 22: down the cliff from there.
    const over = decide([even(22, video * 2)], { foreseen });
    expect(over).toEqual({
      kind: 'again',
      quality: expect.closeTo(22 + (4 * (Math.log(2) + BESIDE)) / Math.log(10), 2) as number,
    });
    // Three times too small at 26: a step of the scale would not do, and the cliff is on this side.
    const under = decide([even(26, video / 3)], { foreseen });
    expect(under).toEqual({
      kind: 'again',
      quality: expect.closeTo(26 - (4 * (Math.log(3) + BESIDE)) / Math.log(10), 2) as number,
    });
    // Between two the curve is bent to meet both, and does not go straight.
    const between = decide([even(18, video * 4), even(26, video / 4)], { foreseen });
    const fell = (Math.log(4) / Math.log(16)) * Math.log(40 / 3);
    const quality = 22 + (4 * (fell - Math.log(4 / 3))) / Math.log(10);
    expect(between).toEqual({ kind: 'again', quality: expect.closeTo(quality, 2) as number });
  });

  it('goes between the encodes around the cap', () => {
    const next = decide([even(20, 14_000_000), even(26, 6_500_000)]);
    expect(next.kind).toBe('again');
    if (next.kind === 'again') expect(next.quality).toBeGreaterThan(20);
    if (next.kind === 'again') expect(next.quality).toBeLessThan(26);
  });

  it('encodes groups again within reach: where most is lost for each byte where there is room', () => {
    const losses = [1, 1, 1, 9, 1, 1, 1, 1, 1, 1];
    const next = decide([even(23, 8_500_000)], { losses });
    expect(next).toMatchObject({ kind: 'retouch', group: 3 });
    if (next.kind === 'retouch') expect(next.quality).toBeLessThan(23);
  });

  it('leaves a group that could not make it up alone to one that can', () => {
    const losses = [9, 1, 1, 1, 1, 1, 1, 1, 1, 1];
    const groups = [50_000, ...Array<number>(9).fill(950_000)];
    const next = decide([pass(23, 8_600_000, groups), pass(20, 13_500_000)], { losses });
    expect(next.kind).toBe('retouch');
    expect(next).not.toMatchObject({ group: 0 });
  });

  it('and where least is lost where there is none', () => {
    const losses = [9, 9, 9, 9, 9, 1, 9, 9, 9, 9];
    const next = decide([even(23, 10_200_000)], { losses });
    expect(next).toMatchObject({ kind: 'retouch', group: 5 });
    if (next.kind === 'retouch') expect(next.quality).toBeGreaterThan(23);
  });

  it('joins as soon as groups fill the cap', () => {
    const retouches = [{ group: 0, quality: 21, bytes: bytes(1_475_000), loss: null }];
    const next = decide([even(23, 9_000_000)], { retouches });
    expect(next.kind).toBe('join');
    if (next.kind === 'join') expect(next.sources[0]).toEqual({ kind: 'retouch', index: 0 });
  });

  it('does not join a group that fell off a cliff, though it would fill the cap', () => {
    const fallen = { group: 0, quality: 27, bytes: bytes(370_000), loss: 50 };
    const next = decide([even(23, 10_700_000)], { retouches: [fallen], losses: Array<number>(10).fill(1) });
    expect(next.kind).toBe('retouch');
  });

  it('leaves a group at a cliff to the others after one try: a group that came out near keeps its turn', () => {
    const losses = [1, 1, 1, 9, 1, 1, 1, 1, 1, 1];
    const tried = (times: number) => {
      const video = bytes(850_000 * times);
      return decide([even(23, 8_500_000)], {
        losses,
        retouches: [{ group: 3, quality: 21, bytes: video, loss: null }],
      });
    };
    expect(tried(1.2)).toMatchObject({ kind: 'retouch', group: 3 });
    const afterCliff = tried(5);
    expect(afterCliff.kind).toBe('retouch');
    expect(afterCliff).not.toMatchObject({ group: 3 });
  });

  it('encodes the whole again, to the other side of the cap, once groups came to more than one and a half encodes', () => {
    // Nothing that was tried changed anything.
    const failed = (turn: number) => ({ group: turn % 10, quality: 22, bytes: bytes(850_000), loss: null });
    const retouches = Array.from({ length: 16 }, (_, turn) => failed(turn));
    expect(decide([even(23, 8_500_000)], { retouches: retouches.slice(1) }).kind).toBe('retouch');
    const next = decide([even(23, 8_500_000)], { retouches });
    const beyond = 23 + (Math.log((CAP * 0.9975 - FIXED) / 8_500_000) + BESIDE) / H264.slope;
    expect(next).toEqual({ kind: 'again', quality: expect.closeTo(beyond, 1) as number });
  });

  it('goes by what a group was measured to lose, not by what its bytes would let one reckon', () => {
    const retouches = [
      { group: 0, quality: 25, bytes: bytes(750_000), loss: 9 },
      { group: 1, quality: 25, bytes: bytes(750_000), loss: 1.2 },
    ];
    const next = decide([even(23, 9_800_000)], { retouches, losses: Array<number>(10).fill(1) });
    expect(next.kind).toBe('join');
    if (next.kind !== 'join') return;
    expect(next.sources[0]).toEqual({ kind: 'pass', index: 0 });
    expect(next.sources[1]).toEqual({ kind: 'retouch', index: 1 });
  });

  it('asks a group that hardly answers for no quality far off', () => {
    const flat = [
      pass(20, 10_300_000, Array<number>(10).fill(1_030_000)),
      pass(21, 10_200_000, Array<number>(10).fill(1_020_000)),
    ];
    const next = decide(flat, { losses: Array<number>(10).fill(1) });
    expect(next.kind).toBe('retouch');
    // Once and a half what a third fewer bytes take as a rule.
    if (next.kind === 'retouch')
      expect(next.quality).toBeLessThanOrEqual(21 + (1.5 * Math.log(1.5)) / -H264.slope + 0.01);
  });

  it('does not join what would be seen beside each other', () => {
    const next = decide([even(23, 9_000_000), even(33, 2_200_000), even(17, 19_000_000)]);
    expect(next.kind).toBe('retouch');
  });

  it('stops at the finest sensible quality, and says so', () => {
    const finest = even(H264.finestSensible, 5_000_000);
    expect(decide([finest])).toEqual({ kind: 'take', index: 0, reason: 'saturated' });
    // Black: finer takes no more.
    expect(decide([even(23, 4000), even(H264.finestSensible, 4000)])).toMatchObject({ reason: 'saturated' });
  });

  it('encodes the whole at it where no group could fill the cap before, and knows then', () => {
    const { finestSensible } = H264;
    // A seventh is missing, and the scale ends about there.
    expect(decide([even(finestSensible + 1, 8_400_000)])).toEqual({ kind: 'again', quality: finestSensible });
    expect(decide([even(finestSensible + 1, 8_400_000), even(finestSensible, 8_900_000)])).toEqual({
      kind: 'take',
      index: 1,
      reason: 'saturated',
    });
    // It may be over as well: then groups of both fill it.
    const around = [even(finestSensible + 1, 8_400_000, 100), even(finestSensible, 10_400_000, 100)];
    expect(decide(around)).toMatchObject({ kind: 'join', reason: 'filled' });
    // A hundredth of a step off it is the same.
    expect(decide([even(finestSensible + 0.01, 8_900_000)])).toMatchObject({ kind: 'take', reason: 'saturated' });
  });

  it('and says so of groups that are joined at it', () => {
    const { finestSensible } = H264;
    const near = even(finestSensible + 1, 8_400_000, 2);
    const retouches = [0, 1].map((group) => ({ group, quality: finestSensible, bytes: bytes(4_700_000), loss: null }));
    expect(decide([near], { retouches })).toMatchObject({ kind: 'join', reason: 'saturated', fileBytes: 9_800_000 });
    const other = { ...retouches[1]!, quality: finestSensible + 0.5 };
    expect(decide([near], { retouches: [retouches[0]!, other] })).not.toMatchObject({ reason: 'saturated' });
  });

  it('reckons with what a joined file came to', () => {
    const retouch = { group: 3, quality: 23.5, bytes: bytes(880_000), loss: null };
    const found = decide([even(23, 9_640_000)], { retouches: [retouch] });
    expect(found).toMatchObject({ kind: 'join', reason: 'filled', fileBytes: 9_640_000 - 84_000 + FIXED });
    expect(decide([even(23, 9_640_000)], { retouches: [retouch], joinedMore: 60_000 }).kind).toBe('retouch');
  });

  it('says so when the coarsest quality is still over', () => {
    expect(decide([even(23, 90_000_000), even(H264.worst, 12_000_000)])).toEqual({ kind: 'over', reason: 'floor' });
  });

  it('finds a clip of a single group by encodes alone, and then takes the fullest', () => {
    const clip = (quality: number, video: number) => pass(quality, video, [video]);
    expect(decide([clip(23, 9_000_000)])).toMatchObject({ kind: 'again' });
    const six = [26, 25, 24, 23.5, 23.2, 23.1].map((quality, index) => clip(quality, 8_900_000 + index * 1000));
    expect(decide(six)).toEqual({ kind: 'take', index: 5, reason: 'passes-spent' });
  });
});

/** A programme whose groups answer a quality as encoders do: each with a slope and a jump of its own, and another alone. */
interface Programme {
  /** Bytes that no quality takes from a group. */
  readonly floor?: number;
  readonly groups: readonly { readonly size: number; readonly slope: number; readonly alone: number }[];
}

const GROUP = fc.record({
  size: fc.double({ min: 20_000, max: 400_000, noNaN: true }),
  slope: fc.double({ min: 0.8, max: 1.25, noNaN: true }),
  alone: fc.double({ min: 0.85, max: 1.2, noNaN: true }),
});
const PROGRAMME: fc.Arbitrary<Programme> = fc.record({ groups: fc.array(GROUP, { minLength: 8, maxLength: 40 }) });

/** What is done until a size is filled, by an encoder that is simulated. */
function simulate(programme: Programme, scale: QualityScale, cap: number, first: number) {
  const sizeOf = (group: number, quality: number) => {
    const { size, slope } = programme.groups[group]!;
    return (programme.floor ?? 50) + Math.round(size * Math.exp(scale.slope * slope * (quality - scale.usual)));
  };
  const passes: WeighedPass[] = [];
  const retouches: WeighedRetouch[] = [];
  let again = 0;
  let next: FillDecision = { kind: 'again', quality: first };
  const total = programme.groups.length;
  for (let step = 0; step < 200; step += 1) {
    if (next.kind === 'again') {
      const { quality } = next;
      const groups = programme.groups.map((_, group) => sizeOf(group, quality));
      passes.push(
        pass(
          quality,
          groups.reduce((sum, one) => sum + one, 0),
          groups,
        ),
      );
    } else if (next.kind === 'retouch') {
      const { group, quality } = next;
      const size = bytes(sizeOf(group, quality) * programme.groups[group]!.alone);
      retouches.push({ group, quality, bytes: size, loss: null });
      again += 1 / total;
    } else {
      const work = passes.length + again;
      if (next.kind === 'over') return { outcome: next.reason, work, file: Infinity };
      if (next.kind === 'take') return { outcome: next.reason, work, file: passes[next.index]!.fileBytes };
      const file = next.sources.reduce((sum, { kind, index }, group) => {
        return sum + (kind === 'pass' ? passes[index]!.groups[group]! : retouches[index]!.bytes!);
      }, FIXED);
      return { outcome: 'filled', work, file };
    }
    const losses = programme.groups.map(({ size }) => size);
    next = decideFill({ cap: bytes(cap), scale, foreseen: [], passes, retouches, losses, joinedMore: 0 });
  }
  throw new Error('It never ended.');
}

describe.each(RATED_CODECS)('a simulated %s encoder', (codec) => {
  const scale = RATED[codec].quality;
  const wanted = fc.double({ min: -0.15, max: 0.15, noNaN: true });

  it('fills what was foreseen within 15 %, never goes over, and takes little more than one encode', () => {
    const works: number[] = [];
    fc.assert(
      fc.property(PROGRAMME, wanted, (programme, miss) => {
        const picture = programme.groups.reduce((sum, { size }) => sum + size, 0) * Math.exp(miss);
        const cap = Math.round(picture + FIXED);
        const { outcome, work, file } = simulate(programme, scale, cap, scale.usual);
        expect(file).toBeLessThanOrEqual(cap);
        expect(outcome).toBe('filled');
        expect(file).toBeGreaterThanOrEqual(cap * FILLED_SHARE);
        works.push(work);
      }),
      { numRuns: 150, seed: 7 },
    );
    const sorted = works.toSorted((a, b) => a - b);
    expect(sorted[Math.floor(sorted.length / 2)]).toBeLessThan(1.6);
  });

  it('fills what half of many groups would have to make up, if need be by another encode of the whole', () => {
    const many = fc.record({ groups: fc.array(GROUP, { minLength: 25, maxLength: 45 }) });
    const further = fc.double({ min: 0.15, max: 0.24, noNaN: true });
    fc.assert(
      fc.property(many, further, (programme, miss) => {
        const picture = programme.groups.reduce((sum, { size }) => sum + size, 0) * Math.exp(miss);
        const cap = Math.round(picture + FIXED);
        const { outcome, work, file } = simulate(programme, scale, cap, scale.usual);
        expect(outcome).toBe('filled');
        expect(file).toBeLessThanOrEqual(cap);
        expect(work).toBeLessThan(3);
      }),
      { numRuns: 60, seed: 7 },
    );
  });

  it('gets there from a quality that is far off', () => {
    fc.assert(
      fc.property(PROGRAMME, fc.integer({ min: -10, max: 10 }), (programme, off) => {
        const picture = programme.groups.reduce((sum, { size }) => sum + size, 0);
        const { outcome, file, work } = simulate(programme, scale, Math.round(picture + FIXED), scale.usual + off);
        expect(outcome).toBe('filled');
        expect(file).toBeLessThanOrEqual(Math.round(picture + FIXED));
        expect(work).toBeLessThan(5);
      }),
      { numRuns: 100, seed: 7 },
    );
  });

  it('fills with few groups, by mixing their versions', () => {
    const large = fc.double({ min: 2e6, max: 4e6, noNaN: true });
    const group = fc.record({
      size: large,
      slope: fc.constant(1),
      alone: fc.double({ min: 0.95, max: 1.05, noNaN: true }),
    });
    const few = fc.record({ groups: fc.array(group, { minLength: 3, maxLength: 5 }) });
    fc.assert(
      fc.property(few, wanted, (programme, miss) => {
        const picture = programme.groups.reduce((sum, { size }) => sum + size, 0) * Math.exp(miss);
        const cap = Math.round(picture + FIXED);
        const { file } = simulate(programme, scale, cap, scale.usual);
        expect(file).toBeLessThanOrEqual(cap);
        expect(file).toBeGreaterThanOrEqual(cap * FILLED_SHARE);
      }),
      { numRuns: 100, seed: 7 },
    );
  });

  it('says when a cap lies below its floor or above its finest', () => {
    const programme = { groups: Array.from({ length: 12 }, () => ({ size: 1e6, slope: 1, alone: 1 })) };
    expect(simulate(programme, scale, FIXED + 700, scale.usual).outcome).toBe('floor');
    expect(simulate(programme, scale, 1e10, scale.usual).outcome).toBe('saturated');
  });

  it('finds an encoder’s floor in few encodes, as each tells how little is still answered to', () => {
    const programme = {
      floor: 150_000,
      groups: Array.from({ length: 12 }, () => ({ size: 1e6, slope: 1, alone: 1 })),
    };
    const { outcome, work } = simulate(programme, scale, FIXED + 12 * 140_000, scale.usual);
    expect(outcome).toBe('floor');
    expect(work).toBeLessThanOrEqual(4);
  });
});

describe('the split of a cap', () => {
  it('always adds up, and leaves the picture nothing when the rest takes it all', () => {
    fc.assert(
      fc.property(fc.nat(1e9), fc.nat(1e8), fc.nat(1e7), (cap, audio, container) => {
        const split = splitBudget(bytes(cap), bytes(audio), bytes(container));
        expect(split.video).toBe(Math.max(0, cap - audio - container));
      }),
    );
  });
});
