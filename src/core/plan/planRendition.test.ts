import { describe, expect, it } from 'vitest';
import { clockOf, factsOf } from '../../testing/facts.ts';
import { listedClock } from '../timing/frameClock.ts';
import { rational } from '../timing/rational.ts';
import { pictureOf, soundsOf, type EncodePlan } from './encodePlan.ts';
import { planRendition } from './planRendition.ts';
import type { PlanRequest } from './planRequest.ts';
import { withVideoCodec } from '../recipe/changeRecipe.ts';
import { referenceChain, referenceSampling } from '../picture/chain.ts';
import { plainVideo, atQuality, STARTING_RECIPE, type RateChoice, type Recipe, OWN_PICTURE } from '../recipe/recipe.ts';
import { UNTREATED } from '../sound/treatment.ts';
import { ROUGH_ERROR, type Sounding } from '../sounding/sounding.ts';

function request(rate: RateChoice, changes: Partial<PlanRequest> = {}): PlanRequest {
  const recipe: Recipe = { ...STARTING_RECIPE, video: plainVideo('h264', rate) };
  const { facts = factsOf() } = changes;
  const given = { facts, clock: clockOf(facts), recipe, portion: null, sounding: null } as const;
  return { ...given, encoders: ['h264', 'hevc', 'aac'], ...changes };
}

function planOf(plan: PlanRequest) {
  const outcome = planRendition(plan);
  if (!outcome.ok) throw new Error(outcome.problems.map((problem) => problem.message).join(' '));
  return outcome.plan;
}

function problemsOf(plan: PlanRequest) {
  const outcome = planRendition(plan);
  return outcome.ok ? [] : outcome.problems;
}

/** Where the sound begins in the file. */
function beginOf(plan: EncodePlan): number {
  const step = soundsOf(plan)[0]?.chain[0];
  return step?.step === 'begin' ? step.startSeconds : NaN;
}

const SIZE = { width: 1280, height: 720 };
const SOUNDING: Sounding = {
  codec: 'h264',
  size: SIZE,
  points: [
    { quality: 12, bitsPerSecond: 8_000_000 },
    { quality: 23, bitsPerSecond: 2_000_000 },
    { quality: 51, bitsPerSecond: 50_000 },
  ],
};

describe('a size to fill', () => {
  it('splits the cap into parts that add up', () => {
    const plan = planOf(request({ mode: 'size', bytes: 15_000_000 }));
    const { budget, passes } = plan;
    const { split, headroom, cap } = budget;
    expect(split.video! + split.audio + split.container + headroom!).toBe(cap);
    expect(split.audio).toBe((128_000 * 60) / 8);
    expect(passes).toEqual(['sound', 'encode']);
    expect(pictureOf(plan)?.do).toMatchObject({ kind: 'encode', rate: { kind: 'fill', cap: 15_000_000 } });
    expect(budget.expected).toMatchObject({ high: 15_000_000 });
  });

  it('is refused at its field when nothing is left, with what would do', () => {
    const [problem] = problemsOf(request({ mode: 'size', bytes: 1 }));
    expect(problem).toMatchObject({ code: 'nothing-left', field: 'video.rate.bytes' });
    expect(problem?.message).toMatch(/About 1,\d00,000 bytes would do/);
  });

  it('is refused beforehand when far below the sounded floor', () => {
    const cap = (128_000 / 8) * 60 + 100_000;
    expect(problemsOf(request({ mode: 'size', bytes: cap }, { sounding: SOUNDING }))[0]?.code).toBe('cap-below-floor');
  });

  it('begins where renditions of the programme came out, and remembers what the sounding alone foresaw', () => {
    const size = { mode: 'size', bytes: 15_000_000 } as const;
    const began = (cameOut: PlanRequest['cameOut']) => {
      const plan = planOf(request(size, { sounding: SOUNDING, ...(cameOut ? { cameOut } : {}) }));
      const picture = pictureOf(plan);
      const rate = picture?.do.kind === 'encode' && picture.do.rate.kind === 'fill' ? picture.do.rate : null;
      return { quality: rate!.quality!, wanted: rate!.rate * 60, sounded: 8 * plan.budget.soundedBytes! };
    };
    const plain = began(undefined);
    expect(plain.sounded / plain.wanted).toBeCloseTo(1, 2);
    // What came to three quarters of its sounding leaves room for a finer quality.
    const learned = began(Array.from({ length: 40 }, () => ({ codec: 'h264', ratio: 0.75 })));
    expect(learned.quality).toBeLessThan(plain.quality - 1);
    expect((learned.sounded * 0.75) / learned.wanted).toBeCloseTo(1, 1);
    const tried = { ...SOUNDING, error: { below: 0.02, above: 0.02 } };
    expect(planOf(request(size, { sounding: tried })).budget.soundedBytes).toBeUndefined();
    // The next is made at other places, and errs otherwise.
    for (const rate of [size, atQuality(23)]) {
      const { budget } = planOf(request(rate, { sounding: { ...SOUNDING, isRough: true } }));
      expect(budget.expected).not.toBeNull();
      expect(budget.soundedBytes).toBeUndefined();
    }
  });

  it('says when the cap does not bind and expects less than it', () => {
    const { budget, advisories } = planOf(request({ mode: 'size', bytes: 200_000_000 }, { sounding: SOUNDING }));
    expect(budget.binds).toBe('finest-quality');
    expect(budget.expected!.likely).toBeLessThan(70_000_000);
    expect(advisories.map((advisory) => advisory.code)).toContain('cap-does-not-bind');
  });
});

describe('constant quality', () => {
  it('promises nothing without a sounding', () => {
    expect(planOf(request(atQuality(23))).budget).toMatchObject({
      expected: null,
      videoRate: null,
      headroom: null,
    });
  });

  it('takes what is usual of a codec for masters, and what its own frames took once some were weighed', () => {
    const recipe = withVideoCodec({ ...STARTING_RECIPE, container: 'mov' }, 'prores');
    const encoders = ['prores', 'aac'] as const;
    const { budget } = planOf({ ...request(atQuality(23)), recipe, encoders });
    expect(budget.isGuess).toBe(true);
    expect(budget.expected!.high).toBeGreaterThan(5 * budget.expected!.low);
    const points = [{ quality: 0, bitsPerSecond: 80_000_000 }];
    const sounding: Sounding = { codec: 'prores', size: SOUNDING.size, points, error: { below: 0.1, above: 0.1 } };
    const known = planOf({ ...request(atQuality(23), { sounding }), recipe, encoders }).budget;
    expect(known.isGuess).toBeUndefined();
    expect(known.split.video).toBe((80_000_000 * 60) / 8);
    expect(known.expected!.high / known.expected!.low).toBeLessThan(1.25);
  });

  it('gives a range around the sounded rate with one', () => {
    const { expected } = planOf(request(atQuality(23), { sounding: SOUNDING })).budget;
    expect(expected!.low).toBeLessThan(expected!.likely);
    expect(expected!.high).toBeGreaterThan(expected!.likely);
    expect(expected!.likely).toBeGreaterThan((2_000_000 * 60) / 8);
  });

  it('is as near as ever between the qualities that were sounded first, and a guess beyond them', () => {
    const sounding: Sounding = { ...SOUNDING, isRough: true, error: ROUGH_ERROR, between: [12, 23] };
    const at = (value: number, of: Sounding) => planOf(request(atQuality(value), { sounding: of })).budget;
    expect(at(20, sounding)).toEqual(at(20, SOUNDING));
    const beyond = at(30, sounding);
    expect(beyond).toMatchObject({ isGuess: true, expected: { likely: at(30, SOUNDING).expected!.likely } });
    expect(beyond.expected!.high).toBeGreaterThan(at(30, SOUNDING).expected!.high);
    // It teaches nothing about soundings.
    expect([beyond.soundedBytes, at(20, sounding).soundedBytes]).toEqual([undefined, expect.any(Number)]);
  });

  it('lies between neighbouring points in the logarithm', () => {
    const at = (value: number) => planOf(request(atQuality(value), { sounding: SOUNDING })).budget.videoRate!;
    expect(at(17.5)).toBe(4_000_000);
    expect(at(30)).toBeLessThan(at(29));
  });
});

describe('what cannot work', () => {
  it.each([
    [
      'no-picture',
      request(atQuality(23), {
        facts: factsOf({ video: null, frameCount: 0, frameRate: rational(0, 1), width: 0, height: 0 }),
      }),
    ],
    ['encoder-missing', request(atQuality(23), { encoders: ['hevc', 'aac'] })],
    ['portion-outside', request(atQuality(23), { portion: { inFrame: 10, outFrame: 1500 } })],
    ['portion-outside', request(atQuality(23), { portion: { inFrame: 10, outFrame: 9 } })],
  ])('%s', (code, plan) => {
    expect(problemsOf(plan)[0]?.code).toBe(code);
  });

  it('refuses a rendition of nothing', () => {
    const recipe: Recipe = { ...STARTING_RECIPE, video: null, audio: null };
    expect(problemsOf(request(atQuality(23), { recipe }))[0]?.code).toBe('no-sound');
  });

  it('refuses a sound rate AAC does not reach', () => {
    const recipe: Recipe = {
      ...STARTING_RECIPE,
      audio: {
        codec: 'aac',
        kbps: 8,
        channels: 'stereo',
        sampleRate: 48000,
        bitDepth: null,
        tracks: [0],
        loudness: null,
        mixed: false,
        joined: false,
        ...UNTREATED,
      },
    };
    expect(problemsOf(request(atQuality(23), { recipe }))[0]).toMatchObject({
      code: 'sound-rate-outside',
      field: 'audio.kbps',
    });
  });
});

describe('pixels that are not square', () => {
  const facts = factsOf({ width: 720, height: 576 }, { pixelAspect: { num: 64, den: 45 } });
  const planned = (picture: Partial<Recipe['picture']>) => {
    const base = request(atQuality(23));
    return pictureOf(planOf({ ...base, facts, recipe: { ...base.recipe, picture: { ...OWN_PICTURE, ...picture } } }))!;
  };

  it('are made square', () => {
    const picture = planned({});
    expect(picture.out.size).toEqual({ width: 1024, height: 576 });
    expect(picture.out.pixelAspect).toBeUndefined();
  });

  it('or keep their shape, and every pixel its place', () => {
    const picture = planned({ pixelAspect: 'source' });
    expect(picture.out).toMatchObject({ size: { width: 720, height: 576 }, pixelAspect: { num: 64, den: 45 } });
    expect(picture.comparedAt).toEqual({ width: 720, height: 576 });
    // A box is of the same pixels.
    const half = planned({ pixelAspect: 'source', fit: { height: 288 } });
    expect(half.out.size).toEqual({ width: 360, height: 288 });
  });

  it('say nothing of square ones', () => {
    const base = request(atQuality(23));
    const kept = { ...base.recipe, picture: { ...OWN_PICTURE, pixelAspect: 'source' as const } };
    expect(pictureOf(planOf({ ...base, recipe: kept }))!.out.pixelAspect).toBeUndefined();
  });
});

describe('standard range', () => {
  const plannedOf = (transfer: string) => {
    const base = request(atQuality(23));
    const colour = { primaries: 'bt2020', transfer, matrix: 'bt2020nc', range: 'full' } as const;
    const picture = { ...OWN_PICTURE, dynamicRange: 'standard' as const };
    return pictureOf(planOf({ ...base, facts: factsOf({}, { colour }), recipe: { ...base.recipe, picture } }))!;
  };

  it('is reached after scaling, and what the result is compared with goes through it too', () => {
    const { chain, from, out } = plannedOf('arib-std-b67');
    expect(chain.map(({ step }) => step)).toEqual(['scale', 'toneMap', 'store', 'tag', 'stamp']);
    expect(referenceChain(chain).map(({ step }) => step)).toEqual(['toneMap']);
    // The master's own numbers go in on both ways.
    const range = 'full';
    expect(chain).toMatchObject([
      { to: { matrix: 'bt2020nc', range } },
      { from: { transfer: 'arib-std-b67', range } },
      {},
      {},
      {},
    ]);
    expect(out.colour.transfer).toBe('bt709');
    expect(referenceSampling(chain, from.sampling)).toEqual({ matrix: 'bt709', range: 'limited' });
  });

  it('is what other masters have', () => {
    const { chain, from, out } = plannedOf('bt709');
    expect(chain.map(({ step }) => step)).not.toContain('toneMap');
    expect(out.colour.primaries).toBe('bt2020');
    expect(referenceSampling(chain, from.sampling)).toEqual(from.sampling);
  });
});

describe('a crop', () => {
  const cropped = (top: number) => {
    const base = request(atQuality(23));
    const picture = { ...OWN_PICTURE, crop: { top, bottom: 138, left: 0, right: 0 }, fit: { width: 1280 } };
    return { ...base, recipe: { ...base.recipe, picture } };
  };

  it('comes before the picture is fitted, and results are compared without what was cut off', () => {
    const picture = pictureOf(planOf(cropped(138)));
    expect(picture).toMatchObject({
      out: { size: { width: 1280, height: 536 } },
      comparedAt: { width: 1920, height: 804 },
    });
  });

  it('must leave a picture', () => {
    expect(problemsOf(cropped(940))[0]).toMatchObject({ code: 'crop-too-large', field: 'picture.crop' });
  });

  it('is not blamed where the master itself is smaller than a codec takes', () => {
    const small = request(atQuality(40), { facts: factsOf({ width: 64, height: 36 }), encoders: ['av1', 'aac'] });
    const recipe = { ...small.recipe, video: plainVideo('av1', atQuality(40)) };
    expect(problemsOf({ ...small, recipe })).toMatchObject([
      { code: 'frame-too-small', message: expect.stringContaining('64 × 36 is smaller than AV1 takes') as string },
    ]);
  });
});

describe('a portion of a variable rate', () => {
  it('begins and ends with its own frames’ times, and the sound with it', () => {
    const times = [0, 0.03, 0.07, 0.5, 0.54, 0.6];
    const facts = factsOf({ frameCount: 6, durationSeconds: 0.65 }, { constantRate: false });
    const clock = listedClock(times, 0.65);
    const changes = { facts, clock, portion: { inFrame: 2, outFrame: 4 } };
    const plan = planOf(request(atQuality(23), changes));
    expect(plan.span.seconds).toBeCloseTo(0.53, 9);
    expect(pictureOf(plan)?.from).toMatchObject({ inFrame: 2, frameCount: 3, opening: { atSeconds: 0.05 } });
    expect(beginOf(plan)).toBeCloseTo(0.07, 9);
    expect(soundsOf(plan)[0]?.out.samples).toBe(Math.round(0.53 * 48000));
  });
});

describe('a portion', () => {
  it('includes its out frame, and its sound follows', () => {
    const plan = planOf(request(atQuality(23), { portion: { inFrame: 25, outFrame: 74 } }));
    expect(pictureOf(plan)?.from).toMatchObject({ inFrame: 25, frameCount: 50, opening: { atSeconds: 0.98 } });
    expect(beginOf(plan)).toBe(1);
    expect(soundsOf(plan)[0]?.out.samples).toBe(96_000);
  });
});

describe('colour', () => {
  it.each([
    [1080, 'bt709'],
    [576, 'smpte170m'],
  ])('untagged at %i lines is %s, and a person is told', (height, matrix) => {
    const facts = factsOf(
      { height, width: 1024 },
      { colour: { primaries: null, transfer: null, matrix: null, range: null } },
    );
    const plan = planOf(request(atQuality(23), { facts }));
    expect(pictureOf(plan)?.out.colour.matrix).toBe(matrix);
    expect(plan.advisories.map((advisory) => advisory.code)).toContain('colour-not-tagged');
  });

  it('keeps tags that are there, against the custom of the size', () => {
    const colour = { primaries: 'smpte170m', transfer: 'smpte170m', matrix: 'smpte170m', range: 'limited' } as const;
    expect(pictureOf(planOf(request(atQuality(23), { facts: factsOf({}, { colour }) })))?.out.colour.matrix).toBe(
      'smpte170m',
    );
  });
});
