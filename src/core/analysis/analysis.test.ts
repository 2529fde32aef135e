import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { constantClock, listedClock } from '../timing/frameClock.ts';
import { rational } from '../timing/rational.ts';
import { clockOf, factsOf } from '../../testing/facts.ts';
import { addUpSteps, concludeFindings } from './conclude.ts';
import type { Edges } from '../geometry/preparation.ts';
import type { MeasuredPicture, MeasuredSound } from './measured.ts';
import { findBlack, findFrozen, findSceneChanges, judgeBars, judgeScan } from './pictureFindings.ts';
import { planAnalysis } from './planAnalysis.ts';
import { buildPyramid, readColumns } from './pyramid.ts';
import { findSilence, integrateLoudness, judgeChannels } from './soundFindings.ts';
import { findRuns } from './stretches.ts';

const PAL = rational(25, 1);
const PAL_CLOCK = constantClock(PAL, 1_000_000);
const NONE: Edges = { top: 0, bottom: 0, left: 0, right: 0 };

function repeat<Value>(value: Value, times: number): Value[] {
  return Array.from({ length: times }, () => value);
}

function pictureOf(changes: Partial<MeasuredPicture> = {}): MeasuredPicture {
  const fields = { progressive: 40, topFirst: 0, bottomFirst: 0, undetermined: 5 };
  return { black: [], difference: [], change: [], bits: [], fields, bars: [], opaque: null, damaged: [], ...changes };
}

function soundOf(changes: Partial<MeasuredSound> = {}): MeasuredSound {
  const level = repeat(-20, 100);
  return {
    momentary: level,
    shortTerm: level,
    peaks: [level, level],
    sum: level,
    difference: repeat(-40, 100),
    truePeak: -3,
    ...changes,
  };
}

describe('a picture with transparency', () => {
  const opaqueOf = (...parts: (boolean | null)[]) => {
    const stretches = parts.map((opaque, at) => ({ inFrame: at * 10, picture: pictureOf({ opaque }), sound: null }));
    return concludeFindings(stretches, PAL, PAL_CLOCK).opaque;
  };

  it('is opaque when every stretch of it is, and not known while one does not say', () => {
    expect(opaqueOf(true, true)).toBe(true);
    expect(opaqueOf(true, false)).toBe(false);
    expect(opaqueOf(true, null)).toBeNull();
  });
});

describe('runs', () => {
  it('include their last position and leave out what is too short', () => {
    const values = [1, 1, 0, 1, 1, 1, 0, 1];
    expect(findRuns(values.length, (at) => values[at] === 1, 2)).toEqual([
      { inFrame: 0, outFrame: 1 },
      { inFrame: 3, outFrame: 5 },
    ]);
  });

  it('cover exactly the positions that pass', () => {
    fc.assert(
      fc.property(fc.array(fc.boolean(), { maxLength: 60 }), (values) => {
        const runs = findRuns(values.length, (at) => values[at] === true, 1);
        const covered = values.map((_, at) => runs.some((run) => at >= run.inFrame && at <= run.outFrame));
        expect(covered).toEqual(values);
      }),
      { seed: 5 },
    );
  });
});

describe('black and frozen stretches', () => {
  it('are found at both ends and inside', () => {
    const black = [...repeat(100, 50), ...repeat(20, 100), ...repeat(99, 10), ...repeat(30, 40), ...repeat(100, 75)];
    expect(findBlack({ black }, PAL_CLOCK)).toEqual([
      { inFrame: 0, outFrame: 49 },
      { inFrame: 150, outFrame: 159 },
      { inFrame: 200, outFrame: 274 },
    ]);
  });

  it('are none for a title card on black, or for a blink', () => {
    expect(findBlack({ black: [...repeat(97, 100), ...repeat(100, 3), ...repeat(10, 20)] }, PAL_CLOCK)).toEqual([]);
  });

  it('begin with the frame that is repeated, and black is not called frozen', () => {
    const difference = [...repeat(4, 20), ...repeat(0, 60), ...repeat(3, 20)];
    expect(findFrozen({ difference, black: repeat(5, 100) }, PAL_CLOCK)).toEqual([{ inFrame: 19, outFrame: 79 }]);
    expect(findFrozen({ difference, black: repeat(100, 100) }, PAL_CLOCK)).toEqual([]);
  });

  it('go on over what a keyframe stirs, and end where something moves', () => {
    const group = [1.36, 0.96, 0.27, ...repeat(0, 9)];
    const black = repeat(5, 200);
    const still = [...repeat(4, 20), ...repeat(0, 12), ...group, ...group, ...group, ...group, ...repeat(3, 20)];
    expect(findFrozen({ difference: still, black }, PAL_CLOCK)).toEqual([{ inFrame: 19, outFrame: 79 }]);
    const stepwise = Array.from({ length: 200 }, (_, frame) => (frame % 6 === 0 ? 1 : 0));
    expect(findFrozen({ difference: stepwise, black }, PAL_CLOCK)).toEqual([]);
    // A keyframe right after the picture came to stand: it stands from before it.
    const early = [...repeat(4, 20), 0, 0, ...group, ...repeat(0, 60), ...repeat(3, 20)];
    expect(findFrozen({ difference: early, black }, PAL_CLOCK)).toEqual([{ inFrame: 19, outFrame: 93 }]);
    const slides = [...repeat(0, 40), 2, ...repeat(0, 40)];
    expect(findFrozen({ difference: slides, black }, PAL_CLOCK)).toEqual([]);
  });
});

describe('a rate that varies', () => {
  // Frames at 25 a second, but the eleventh is held for three seconds.
  const times = Array.from({ length: 40 }, (_, frame) => frame / 25 + (frame > 10 ? 3 : 0));
  const clock = listedClock(times, 40 / 25 + 3);

  it('has a picture that stands still where one frame is held, and black counted by the clock', () => {
    const [difference, black] = [repeat(4, 40), repeat(5, 40)];
    expect(findFrozen({ difference, black }, clock)).toEqual([{ inFrame: 10, outFrame: 10 }]);
    expect(findFrozen({ difference, black: repeat(100, 40) }, clock)).toEqual([]);
    const blink = [...repeat(5, 10), 100, 100, ...repeat(5, 28)];
    expect(findBlack({ black: blink }, clock)).toEqual([{ inFrame: 10, outFrame: 11 }]);
    expect(findBlack({ black: blink }, PAL_CLOCK)).toEqual([]);
  });

  it('has its bits where its frames are shown', () => {
    const steps = addUpSteps(repeat(1000, 40), rational(10, 1), clock);
    expect(steps).toHaveLength(10);
    expect(steps.slice(1, 6)).toEqual(repeat(0, 5));
    expect(steps.reduce((sum, step) => sum + step, 0)).toBe(40_000);
  });
});

describe('scene changes', () => {
  it('are the strongest of neighbours, never the first frame', () => {
    expect(findSceneChanges({ change: [80, 0, 2, 35, 12, 0, 9.9, 0, 40] })).toEqual([3, 8]);
  });
});

describe('scan', () => {
  const fields = (progressive: number, topFirst: number, bottomFirst: number) => ({
    progressive,
    topFirst,
    bottomFirst,
    undetermined: 10,
  });
  it.each([
    [fields(90, 2, 1), 'progressive'],
    [fields(3, 80, 2), 'top-first'],
    [fields(0, 1, 60), 'bottom-first'],
    [fields(40, 40, 0), 'mixed'],
    // Both parities, and not one of them nearly alone: a pattern, not fields.
    [fields(2, 47, 9), 'progressive'],
    [fields(10, 20, 20), 'progressive'],
    [fields(2, 3, 0), null],
  ])('of %j is %s', (tally, scan) => {
    expect(judgeScan(tally)).toBe(scan);
  });
});

describe('bars', () => {
  const sharp = (top: number, bottom = top) => {
    const bars = { ...NONE, top, bottom };
    return { dark: bars, dim: bars };
  };
  it('are where many frames have a sharp edge and none shows more', () => {
    expect(judgeBars([sharp(138), sharp(138), sharp(138), sharp(400, 138), sharp(300)])).toEqual({
      ...NONE,
      top: 138,
      bottom: 138,
    });
  });

  it('are none when one frame fills the picture', () => {
    expect(judgeBars([...repeat(sharp(138), 9), sharp(0)])).toEqual(NONE);
  });

  it('are none where the picture only grows darker towards the edge', () => {
    const dusk = { dark: { ...NONE, top: 18 }, dim: { ...NONE, top: 120 } };
    expect(judgeBars(repeat(dusk, 20))).toEqual(NONE);
  });

  it('are not told from one dark scene', () => {
    expect(judgeBars([sharp(138), sharp(138)])).toBeNull();
    expect(judgeBars([...repeat(sharp(200), 2), ...repeat(sharp(3), 30)])).toEqual(NONE);
  });

  it('are even, so that a crop keeps chroma whole', () => {
    expect(judgeBars(repeat(sharp(139, 137), 5))).toMatchObject({ top: 138, bottom: 136 });
  });
});

describe('loudness', () => {
  it('of a steady level is that level', () => {
    // ITU-R BS.1770 (value from memory): gating does not change a steady signal.
    const loudness = integrateLoudness(soundOf({ momentary: repeat(-23, 200), shortTerm: repeat(-23, 200) }));
    expect(loudness?.integratedLufs).toBeCloseTo(-23, 9);
    expect(loudness?.rangeLu).toBe(0);
  });

  it('leaves out what lies ten below the ungated level', () => {
    // EBU Tech 3341 case 3 (value from memory): −36, −23, −36 for 10, 60, 10 s reads −23.0.
    const momentary = [...repeat(-36, 100), ...repeat(-23, 600), ...repeat(-36, 100)];
    expect(integrateLoudness(soundOf({ momentary }))?.integratedLufs).toBeCloseTo(-23, 1);
  });

  it('has the range between the 10th and the 95th percentile', () => {
    // EBU Tech 3342 case 1 (value from memory): −20 and −30 for 20 s each reads 10 LU.
    const shortTerm = [...repeat(-20, 230), ...repeat(-30, 230)];
    expect(integrateLoudness(soundOf({ shortTerm }))?.rangeLu).toBeCloseTo(10, 6);
  });

  it('of silence is none', () => {
    expect(integrateLoudness(soundOf({ momentary: repeat(-120, 50) }))).toBeNull();
  });
});

describe('channels', () => {
  it('are identical when their difference is nothing, out of phase when their sum is', () => {
    expect(judgeChannels(soundOf({ difference: repeat(-120, 100) }))).toMatchObject({ identical: true });
    expect(judgeChannels(soundOf({ sum: repeat(-60, 100), difference: repeat(-20, 100) }))).toMatchObject({
      identical: false,
      outOfPhase: true,
    });
    expect(judgeChannels(soundOf())).toMatchObject({ identical: false, outOfPhase: false, silent: [] });
  });

  it('that carry nothing are named, and then say nothing about phase', () => {
    const peaks = [repeat(-10, 100), repeat(-120, 100)];
    expect(judgeChannels(soundOf({ peaks, difference: repeat(-20, 100) }))).toEqual({
      peaks: [-10, -120],
      silent: [1],
      identical: false,
      outOfPhase: false,
    });
  });

  it('are silent together from half a second on', () => {
    const left = [...repeat(-80, 20), ...repeat(-12, 20), ...repeat(-80, 3), ...repeat(-12, 7), ...repeat(-90, 10)];
    expect(findSilence(soundOf({ peaks: [left, repeat(-100, 60)] }))).toEqual([
      { startSeconds: 0, endSeconds: 2 },
      { startSeconds: 5, endSeconds: 6 },
    ]);
  });
});

describe('busy-ness', () => {
  it('shares the keyframe of each second and loses no bit', () => {
    const bits = Array.from({ length: 50 }, (_, frame) => (frame % 25 === 0 ? 100_000 : 1000));
    const steps = addUpSteps(bits, PAL, PAL_CLOCK);
    expect(steps).toHaveLength(4);
    expect(steps.reduce((sum, step) => sum + step, 0)).toBe(2 * 100_000 + 48 * 1000);
    expect(steps[1]! / steps[0]!).toBeCloseTo(1, 0);
  });
});

describe('joining stretches', () => {
  it('finds what lies across their border, and groups damage', () => {
    const first = pictureOf({ black: [...repeat(10, 20), ...repeat(100, 5)], damaged: [3, 4, 20] });
    const second = pictureOf({ black: [...repeat(100, 5), ...repeat(10, 20)], damaged: [47] });
    const findings = concludeFindings(
      [
        { inFrame: 0, picture: first, sound: null },
        { inFrame: 25, picture: second, sound: null },
      ],
      PAL,
      PAL_CLOCK,
    );
    expect(findings.black).toEqual([{ inFrame: 20, outFrame: 29 }]);
    expect(findings.damaged).toEqual([
      { inFrame: 3, outFrame: 20 },
      { inFrame: 47, outFrame: 47 },
    ]);
    expect(findings.sound).toBeNull();
  });
});

describe('the plan of an analysis', () => {
  it('covers every frame once, in stretches that begin with a small picture', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1_000_000 }),
        fc.constantFrom(PAL, rational(24000, 1001), rational(60000, 1001)),
        (frameCount, frameRate) => {
          const durationSeconds = (frameCount * frameRate.den) / frameRate.num;
          const facts = factsOf({ frameCount, frameRate, durationSeconds });
          const { stretches, pictureInterval } = planAnalysis(facts, clockOf(facts));
          let next = 0;
          for (const stretch of stretches) {
            expect(stretch.inFrame).toBe(next);
            expect(stretch.inFrame % pictureInterval).toBe(0);
            next += stretch.frameCount;
          }
          expect(next).toBe(frameCount);
        },
      ),
      { seed: 7 },
    );
  });

  it('opens a file without an index before each stretch, and skips to it by time', () => {
    const facts = factsOf({ frameCount: 90_000, durationSeconds: 3600 }, { seeksExactly: true, seekLeadSeconds: 4 });
    const { stretches } = planAnalysis(facts, clockOf(facts));
    expect(stretches).toHaveLength(60);
    expect(stretches[0]!.opening).toEqual({ atSeconds: 0, skipSeconds: 0 });
    // Two frames of lead, and half a frame early.
    expect(stretches[1]!.opening.atSeconds).toBeCloseTo(60 - 2.5 / 25 - 4, 9);
    expect(stretches[1]!.opening.skipSeconds).toBe(4);
  });

  it('is one stretch where frames cannot be sought', () => {
    const facts = factsOf({ frameCount: 90_000, durationSeconds: 3600 }, { seeksExactly: false });
    expect(planAnalysis(facts, clockOf(facts)).stretches).toHaveLength(1);
  });
});

describe('the pyramid', () => {
  it('gives the most and the least of what lies under each column', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -1000, max: 1000 }), { minLength: 1, maxLength: 300 }),
        fc.integer({ min: 1, max: 40 }),
        (values, columns) => {
          const most = readColumns(buildPyramid(values), 0, values.length, columns, 'most');
          const least = readColumns(buildPyramid(values), 0, values.length, columns, 'least');
          // Neighbours may share a run at the border, so a column never misses a value of its own.
          for (let column = 0; column < columns; column += 1) {
            const from = Math.floor((column * values.length) / columns);
            const to = Math.max(from + 1, Math.ceil(((column + 1) * values.length) / columns));
            const own = values.slice(from, to);
            expect(most[column]).toBeGreaterThanOrEqual(Math.max(...own));
            expect(least[column]).toBeLessThanOrEqual(Math.min(...own));
          }
          expect(Math.max(...most)).toBe(Math.max(...values));
          expect(Math.min(...least)).toBe(Math.min(...values));
        },
      ),
      { seed: 11 },
    );
  });

  it('has nothing outside the values', () => {
    const columns = readColumns(buildPyramid([5]), -2, 2, 4, 'most');
    expect([...columns].map(Number.isNaN)).toEqual([true, true, false, true]);
  });
});
