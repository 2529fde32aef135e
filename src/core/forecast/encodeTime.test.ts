import { describe, expect, it } from 'vitest';
import { clockOf, factsOf } from '../../testing/facts.ts';
import { planRendition } from '../plan/planRendition.ts';
import { atQuality, plainVideo, STARTING_RECIPE, type Recipe } from '../recipe/recipe.ts';
import { SOUND_CODECS } from '../sound/codecs.ts';
import { RATED, RATED_CODECS, VIDEO_CODECS } from '../video/codecs.ts';
import {
  encodeKindOf,
  foreseeSeconds,
  learnSpeeds,
  pixelsOf,
  STARTING_SECONDS,
  type FinishedEncode,
} from './encodeTime.ts';

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
const PIXELS = (1280 * 720 + 0.5 * 1920 * 1080) * 1500;

const at = (pixelsPerSecond: number): FinishedEncode => ({
  kind: { codec: 'h264', effort: 'balanced', way: 'once' },
  pixels: pixelsPerSecond * 10,
  seconds: STARTING_SECONDS + 10,
});

describe('how long an encode takes', () => {
  it('is unknown until one was finished', () => {
    expect(foreseeSeconds(PLAN, [])).toBeNull();
  });

  it('is told by other codecs and efforts as long as there is nothing nearer, and then more widely', () => {
    const ofHevc: FinishedEncode = { ...at(1e7), kind: { codec: 'hevc', effort: 'balanced', way: 'once' } };
    const guess = foreseeSeconds(PLAN, learnSpeeds([ofHevc]))!;
    const less = RATED.h264.work.balanced / RATED.hevc.work.balanced;
    expect(guess.likely).toBeCloseTo(STARTING_SECONDS + (PIXELS / 1e7) * less, 6);
    const known = foreseeSeconds(PLAN, learnSpeeds([ofHevc, at(3e7)]))!;
    expect(known.likely).toBeCloseTo(STARTING_SECONDS + PIXELS / 3e7, 6);
    expect(guess.high / guess.low).toBeGreaterThan((2 * known.high) / known.low);
    // The same codec tells more than the same effort.
    const fast: FinishedEncode = { ...at(2e7), kind: { codec: 'h264', effort: 'fast', way: 'once' } };
    const nearer = foreseeSeconds(PLAN, learnSpeeds([ofHevc, fast]))!;
    const more = RATED.h264.work.balanced / RATED.h264.work.fast;
    expect(nearer.likely).toBeCloseTo(STARTING_SECONDS + (PIXELS / 2e7) * more, 6);
  });

  it.each(RATED_CODECS)('takes longer the more effort %s makes', (codec) => {
    const { fast, balanced, thorough } = RATED[codec].work;
    expect([fast, balanced, thorough]).toEqual([fast, balanced, thorough].toSorted((a, b) => a - b));
  });

  it('follows the pixels, around the middle of what was seen', () => {
    const speeds = learnSpeeds([at(2e7), at(1e7), at(4e7)]);
    expect(pixelsOf(PLAN)).toBe(PIXELS);
    const foreseen = foreseeSeconds(PLAN, speeds)!;
    expect(foreseen.likely).toBeCloseTo(STARTING_SECONDS + PIXELS / 2e7, 6);
    expect(foreseen.low).toBeLessThan(PIXELS / 4e7);
    expect(foreseen.high).toBeGreaterThan(PIXELS / 1e7);
  });

  it('is told the more narrowly the more were seen', () => {
    const [one, many] = [1, 12].map((count) =>
      foreseeSeconds(PLAN, learnSpeeds(Array.from({ length: count }, () => at(2e7)))),
    );
    expect(one!.high / one!.low).toBeGreaterThan(3.5);
    expect(many!.high / many!.low).toBeLessThan(1.6);
  });

  it('is told of a way that was not gone yet by another, more widely', () => {
    const once = foreseeSeconds(PLAN, learnSpeeds([at(2e7)]))!;
    const filling = foreseeSeconds(
      planOf(plainVideo('h264', { mode: 'size', bytes: 9_000_000 })),
      learnSpeeds([at(2e7)]),
    )!;
    expect(filling.likely - STARTING_SECONDS).toBeGreaterThan(2 * (once.likely - STARTING_SECONDS));
    expect(filling.high / filling.low).toBeGreaterThan((1.8 * once.high) / once.low);
    const seen = { ...at(1e7), kind: { ...at(1e7).kind, way: 'filling' as const } };
    const own = foreseeSeconds(
      planOf(plainVideo('h264', { mode: 'size', bytes: 9_000_000 })),
      learnSpeeds([at(2e7), seen]),
    );
    expect(own?.likely).toBeCloseTo(STARTING_SECONDS + PIXELS / 1e7, 6);
  });

  it('does not take a clip’s starts for the pace of a programme', () => {
    const clip = learnSpeeds([{ ...at(2e7), pixels: 2e7, seconds: STARTING_SECONDS + 1 }]);
    expect(foreseeSeconds(PLAN, clip)?.likely).toBeCloseTo(STARTING_SECONDS + PIXELS / 2e7, 6);
    // What took no longer than its starts says little, and never that encoding costs nothing.
    const shortest = learnSpeeds([{ ...at(2e7), pixels: 2e7, seconds: 0.9 }]);
    expect(shortest[0]?.pixelsPerSecond.usual).toBeCloseTo(2e7 / 0.3, 0);
  });

  it('forgets what was long ago', () => {
    const speeds = learnSpeeds([
      ...Array.from({ length: 12 }, () => at(3e7)),
      ...Array.from({ length: 50 }, () => at(1)),
    ]);
    expect(speeds).toMatchObject([{ encodes: 12, pixelsPerSecond: { slowest: 3e7, usual: 3e7, fastest: 3e7 } }]);
  });

  it.each([
    [plainVideo('h264', { mode: 'average', kbps: 2000, passes: 2 }), 'twice', 'balanced'],
    [plainVideo('hevc', { mode: 'size', bytes: 9_000_000 }, 'fast'), 'filling', 'fast'],
    [{ codec: 'prores', flavour: 'hq', chroma: '4:2:2', bitDepth: 10, alpha: false } as const, 'once', null],
  ] as const)('%o is a kind of its own', (video, way, effort) => {
    const plan = planOf(video, 'codec' in video && video.codec === 'prores' ? 'mov' : 'mp4');
    expect(encodeKindOf(plan)).toEqual({ codec: video.codec, effort, way });
  });
});
