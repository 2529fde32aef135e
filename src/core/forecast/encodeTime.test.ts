import { describe, expect, it } from 'vitest';
import { clockOf, factsOf } from '../../testing/facts.ts';
import { planRendition } from '../plan/planRendition.ts';
import { atQuality, plainVideo, STARTING_RECIPE, type Recipe } from '../recipe/recipe.ts';
import { SOUND_CODECS } from '../sound/codecs.ts';
import { RATED, RATED_CODECS, VIDEO_CODECS } from '../video/codecs.ts';
import {
  foreseeSeconds,
  learnSpeeds,
  nearestSpeed,
  speedsOf,
  startingSeconds,
  STARTING_CHECKS_SECONDS,
  STARTING_SECONDS,
  type FinishedEncode,
} from './encodeTime.ts';
import { costOfDensity, densityOf, encodeKindOf, pixelsOf, workOf, workOfPlan, type EncodeKind } from './encodeWork.ts';

function planOf(video: Recipe['video'], container: Recipe['container'] = 'mp4') {
  const facts = factsOf();
  const recipe = { ...STARTING_RECIPE, container, video, audio: null };
  const encoders = [...VIDEO_CODECS, ...SOUND_CODECS];
  const outcome = planRendition({ facts, clock: clockOf(facts), recipe, portion: null, encoders, sounding: null });
  if (!outcome.ok) throw new Error(outcome.problems[0]?.message);
  return outcome.plan;
}

const PLAN = planOf(plainVideo('h264', atQuality(23)));
/** A minute of 720 lines at 25 frames a second, of a master of 1080. */
const PIXELS = { own: 1280 * 720 * 1500, masters: 1920 * 1080 * 1500 };
const ONCE: EncodeKind = { codec: 'h264', effort: 'balanced', way: 'once' };
const DENSITY = 0.03;

/** An encode that did so much work a second, for ten seconds, and compared ten million pixels a second. */
const at = (workPerSecond: number, kind = ONCE, bitsPerPixel = DENSITY, programmeId = 'film'): FinishedEncode => {
  const pixels = { own: 1e6, masters: 0 };
  const encodeSeconds = 10 + startingSeconds(kind);
  const times = (workPerSecond * 10) / workOf(kind, pixels, bitsPerPixel);
  return {
    programmeId,
    kind,
    pixels: { own: 1e6 * times, masters: 0 },
    bitsPerPixel,
    encodeSeconds,
    checkSeconds: null,
    besideShare: 0,
  };
};
/** What encoding the plan should take at so much work a second, checks aside. */
const encoding = (workPerSecond: number, kind = ONCE) =>
  startingSeconds(kind) + workOf(kind, PIXELS, DENSITY) / workPerSecond;
/** With the start of its checks. */
const whole = (workPerSecond: number, kind = ONCE) => STARTING_CHECKS_SECONDS + encoding(workPerSecond, kind);

describe('how long an encode takes', () => {
  it('is unknown until one was finished', () => {
    expect(foreseeSeconds(PLAN, learnSpeeds([]))).toBeNull();
  });

  it('is told by other codecs and efforts as long as there is nothing nearer, and then more widely', () => {
    const ofHevc = at(1e7, { ...ONCE, codec: 'hevc' });
    const guess = foreseeSeconds(PLAN, learnSpeeds([ofHevc]))!;
    expect(guess.likely).toBeCloseTo(whole(1e7), 6);
    const known = foreseeSeconds(PLAN, learnSpeeds([ofHevc, at(3e7)]))!;
    expect(known.likely).toBeCloseTo(whole(3e7), 6);
    expect(guess.high / guess.low).toBeGreaterThan((1.8 * known.high) / known.low);
    // The same codec tells more than the same effort.
    const nearer = foreseeSeconds(PLAN, learnSpeeds([ofHevc, at(2e7, { ...ONCE, effort: 'fast' })]))!;
    expect(nearer.likely).toBeCloseTo(whole(2e7), 6);
  });

  it.each(RATED_CODECS)('takes longer the more effort %s makes', (codec) => {
    const { fast, balanced, thorough } = RATED[codec].work;
    expect([fast, balanced, thorough]).toEqual([fast, balanced, thorough].toSorted((a, b) => a - b));
  });

  it('follows the pixels, around the middle of what was seen', () => {
    const speeds = learnSpeeds([at(2e7), at(1e7), at(4e7)]);
    expect(pixelsOf(PLAN)).toEqual(PIXELS);
    const foreseen = foreseeSeconds(PLAN, speeds)!;
    expect(foreseen.likely).toBeCloseTo(whole(2e7), 6);
    expect(foreseen.low).toBeLessThan(whole(4e7));
    expect(foreseen.high).toBeGreaterThan(whole(1e7));
  });

  it('follows the bits that are foreseen', () => {
    const speeds = learnSpeeds([at(2e7)]);
    const expecting = (bytes: number) => {
      const expected = { ...{ low: bytes, likely: bytes, high: bytes }, from: 'sounding' as const };
      return { ...PLAN, budget: { ...PLAN.budget, expected: expected as never } };
    };
    const rest = PLAN.budget.split.audio + PLAN.budget.split.container;
    const usual = Math.round((DENSITY * PIXELS.own) / 8 + rest);
    const { likely } = foreseeSeconds(expecting(usual), speeds)!;
    expect(densityOf(workOfPlan(PLAN), usual)).toBeCloseTo(DENSITY, 6);
    expect(likely).toBeCloseTo(whole(2e7), 3);
    const dense = foreseeSeconds(expecting(usual * 10), speeds)!.likely;
    expect(dense / likely).toBeGreaterThan(1.8);
    expect(dense / likely).toBeLessThan(2);
    // And what was learned of dense pictures promises less for plain ones.
    const learned = learnSpeeds([at(2e7, ONCE, 0.3)]);
    expect(foreseeSeconds(expecting(usual), learned)!.likely).toBeCloseTo(whole(2e7), 3);
    expect(foreseeSeconds(PLAN, learned)!.likely).toBeGreaterThan(1.8 * whole(2e7));
  });

  it('doubles with ten times the bits, and a picture in which nothing moves is still looked at', () => {
    expect(costOfDensity(0.3) / costOfDensity(0.03)).toBeCloseTo(2, 1);
    expect(costOfDensity(0)).toBeGreaterThan(0.3);
  });

  it('tells what the checks are of it', () => {
    const checked = {
      ...at(2e7),
      pixels: { ...at(2e7).pixels, masters: 1e9 },
      checkSeconds: STARTING_CHECKS_SECONDS + 20,
    };
    const { checking, likely } = foreseeSeconds(PLAN, learnSpeeds([checked]))!;
    expect(checking).toBeCloseTo(STARTING_CHECKS_SECONDS + PIXELS.masters / 5e7, 6);
    expect(likely).toBeGreaterThan(checking);
  });

  it('is not told longer by an encode that shared the cores', () => {
    const shared = { ...at(2e7), encodeSeconds: at(2e7).encodeSeconds * 1.5, besideShare: 1 };
    expect(foreseeSeconds(PLAN, learnSpeeds([shared]))!.likely).toBeCloseTo(whole(2e7), 6);
    const half = { ...shared, encodeSeconds: at(2e7).encodeSeconds * 1.2, besideShare: 0.5 };
    expect(foreseeSeconds(PLAN, learnSpeeds([half]))!.likely).toBeCloseTo(whole(2e7), 6);
  });

  it('is told the more narrowly the more were seen', () => {
    const [one, many] = [1, 12].map((count) =>
      foreseeSeconds(PLAN, learnSpeeds(Array.from({ length: count }, () => at(2e7)))),
    );
    expect(one!.high / one!.low).toBeGreaterThan(2.7);
    expect(many!.high / many!.low).toBeLessThan(1.45);
  });

  it('is told of a way that was not gone yet by another, more widely', () => {
    const once = foreseeSeconds(PLAN, learnSpeeds([at(2e7)]))!;
    const size = { ...planOf(plainVideo('h264', { mode: 'size', bytes: 9_000_000 })), budget: PLAN.budget };
    const filling = foreseeSeconds(size, learnSpeeds([at(2e7)]))!;
    expect(filling.likely).toBeGreaterThan(1.5 * once.likely);
    expect(filling.likely).toBeLessThan(2 * once.likely);
    expect(filling.high / filling.low).toBeGreaterThan((1.8 * once.high) / once.low);
    const kind = { ...ONCE, way: 'filling' as const };
    const own = foreseeSeconds(size, learnSpeeds([at(2e7), at(1e7, kind)]));
    // One size that was filled says little of the next, and many say nearly all.
    expect(own?.likely).toBeCloseTo(whole(1e7 ** (1 / 3) * 2e7 ** (2 / 3), kind), 6);
    const sizes = Array<FinishedEncode>(12).fill(at(1e7, kind));
    const known = foreseeSeconds(size, learnSpeeds([at(2e7), ...sizes]))!;
    expect(known.likely / whole(1e7, kind)).toBeGreaterThan(0.85);
    // Where nothing else was seen of its codec they say all.
    expect(foreseeSeconds(size, learnSpeeds([at(1e7, kind)]))?.likely).toBeCloseTo(whole(1e7, kind), 6);
  });

  it('does not take a clip’s starts for the pace of a programme', () => {
    const pixels = { own: 1e7, masters: 0 };
    const work = workOf(ONCE, pixels, DENSITY);
    const clip = { programmeId: 'film', kind: ONCE, pixels, bitsPerPixel: DENSITY, checkSeconds: null, besideShare: 0 };
    const learned = learnSpeeds([{ ...clip, encodeSeconds: STARTING_SECONDS + 1 }]);
    expect(learned.encoding[0]?.workPerSecond.usual).toBeCloseTo(work, 0);
    // What took no longer than its starts says little, and never that encoding costs nothing.
    const shortest = learnSpeeds([{ ...clip, encodeSeconds: 0.45 }]);
    expect(shortest.encoding[0]?.workPerSecond.usual).toBeCloseTo(work / 0.15, 0);
  });

  it('follows how encodes of the programme itself went in the codec, the more the more there were', () => {
    const others = ['a', 'b', 'c', 'd', 'e'].map((id) => at(3e7, ONCE, DENSITY, id));
    const grainy = at(1e7, ONCE, DENSITY, 'grain');
    const filling = { ...ONCE, way: 'filling' as const };
    const speedOf = (id: string, finished: FinishedEncode[], kind = ONCE) =>
      nearestSpeed(kind, speedsOf(id, learnSpeeds(finished)).encoding)!.workPerSecond.usual;
    expect(speedOf('a', [...others, grainy])).toBeCloseTo(3e7, 0);
    expect(speedOf('new', [...others, grainy])).toBeCloseTo(3e7, 0);
    const [one, many] = [1, 5].map((count) =>
      speedOf('grain', [...others, ...Array<FinishedEncode>(count).fill(grainy)]),
    );
    expect(one).toBeCloseTo(3e7 / 3 ** 0.6, -5);
    expect(many).toBeLessThan(1.2e7);
    // Of kinds that it was not made by yet as well, but of no other codec; and alone it tells nothing.
    const size = at(6e7, filling, DENSITY, 'a');
    expect(speedOf('grain', [...others, grainy, size], filling)).toBeCloseTo(
      (6e7 ** (1 / 3) * 3e7 ** (2 / 3)) / 3 ** 0.6,
      -5,
    );
    const hevc = { ...ONCE, codec: 'hevc' as const };
    expect(speedOf('grain', [...others, grainy, at(2e7, hevc, DENSITY, 'a')], hevc)).toBeCloseTo(2e7, 0);
    expect(learnSpeeds([grainy, grainy]).programmes).toEqual([]);
  });

  it('is told more narrowly once the programme itself was made', () => {
    const others = ['a', 'b', 'c'].map((id, index) => at(1e7 * (index + 1), ONCE, DENSITY, id));
    const [before, after] = ['new', 'b'].map((id) => foreseeSeconds(PLAN, speedsOf(id, learnSpeeds(others)))!);
    expect(after!.likely).toBeCloseTo(before!.likely, 6);
    expect(after!.high / after!.low).toBeLessThan(before!.high / before!.low);
  });

  it('forgets what was long ago', () => {
    const { encoding: speeds } = learnSpeeds([
      ...Array.from({ length: 12 }, () => at(3e7)),
      ...Array.from({ length: 50 }, () => at(1)),
    ]);
    expect(speeds).toHaveLength(1);
    expect(speeds[0]!.encodes).toBe(12);
    expect(speeds[0]!.workPerSecond.slowest).toBeCloseTo(3e7, 0);
  });

  it.each([
    [plainVideo('h264', { mode: 'average', kbps: 2000, passes: 2 }), 'twice', 'balanced'],
    [plainVideo('hevc', { mode: 'size', bytes: 9_000_000 }, 'fast'), 'filling', 'fast'],
    [{ codec: 'prores', flavour: 'hq', chroma: '4:2:2', bitDepth: 10, alpha: false } as const, 'once', null],
  ] as const)('%o is a kind of its own', (video, way, effort) => {
    const plan = planOf(video, 'codec' in video && video.codec === 'prores' ? 'mov' : 'mp4');
    expect(encodeKindOf(plan)).toEqual({ codec: video.codec, effort, way });
  });

  it('a size that the finest quality does not fill is encoded once', () => {
    const plan = planOf(plainVideo('h264', { mode: 'size', bytes: 9_000_000 }), 'mp4');
    const roomy = { ...plan, budget: { ...plan.budget, binds: 'finest-quality' } } as const;
    expect([plan, roomy].map((one) => encodeKindOf(one)?.way)).toEqual(['filling', 'once']);
  });
});
