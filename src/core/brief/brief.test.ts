import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { clockOf, factsOf } from '../../testing/facts.ts';
import { planRendition } from '../plan/planRendition.ts';
import { changesOf } from '../recipe/recipeChanges.ts';
import {
  COPIED_SOUND,
  encodedSound,
  ratedVideo,
  renditionSize,
  STARTING_RECIPE,
  type Recipe,
} from '../recipe/recipe.ts';
import { STOCK_RECIPES } from '../recipe/stockRecipes.ts';
import { SOUND_CODECS } from '../sound/codecs.ts';
import { VIDEO_CODECS } from '../video/codecs.ts';
import { bendToBrief, findUnsuited } from './bendToBrief.ts';
import { OPEN_BRIEF } from './brief.ts';
import { ceilingsOf } from './ceilings.ts';
import { checkBrief } from './checkBrief.ts';
import { STOCK_BRIEFS } from './stockBriefs.ts';

const FACTS = factsOf();
const ENCODERS = [...VIDEO_CODECS, ...SOUND_CODECS];

function problemsOf(recipe: typeof STARTING_RECIPE | (typeof STOCK_RECIPES)[number]['recipe']): string[] {
  const request = { facts: FACTS, clock: clockOf(FACTS), recipe, portion: null, sounding: null };
  const outcome = planRendition({ ...request, encoders: ENCODERS });
  return outcome.ok ? [] : outcome.problems.map(({ message }) => message);
}

describe('recipes that ship', () => {
  it.each(STOCK_RECIPES.map(({ id, recipe }) => [id, recipe] as const))('%s can be made', (_id, recipe) => {
    expect(problemsOf(recipe)).toEqual([]);
  });

  it('are a dozen, each with a name and a sentence of its own', () => {
    expect(STOCK_RECIPES).toHaveLength(12);
    for (const of of [STOCK_RECIPES.map(({ recipe }) => recipe.name), STOCK_RECIPES.map(({ notes }) => notes)]) {
      expect(new Set(of).size).toBe(12);
    }
  });
});

describe('a brief', () => {
  const pairs = STOCK_BRIEFS.flatMap(({ brief }) => STOCK_RECIPES.map(({ recipe }) => ({ brief, recipe })));

  it('bends any recipe to an order that keeps it, or says why the programme does not suit', () => {
    for (const { brief, recipe } of pairs) {
      const bent = bendToBrief(recipe, brief, FACTS).recipe;
      if (findUnsuited(brief, FACTS, bent, FACTS.durationSeconds).length > 0) continue;
      expect(problemsOf(bent), `${brief.name} from ${recipe.name}`).toEqual([]);
      const size = renditionSize(FACTS, bent);
      if (bent.video) {
        expect(size!.width).toBeLessThanOrEqual(brief.maxWidth ?? Infinity);
        expect(size!.height).toBeLessThanOrEqual(brief.maxHeight ?? Infinity);
      }
      const stays = recipe.video === null && brief.picture !== true;
      expect(bent.video === null).toBe(brief.picture === false || stays);
      if (brief.containers) expect(brief.containers).toContain(bent.container);
      if (brief.codecs && bent.video) expect(brief.codecs).toContain(bent.video.codec);
      if (brief.soundCodecs && bent.audio) expect(brief.soundCodecs).toContain(bent.audio.codec);
      const rate = ratedVideo(bent)?.rate;
      if (brief.maxBytes !== null && rate) expect(rate.mode === 'size' && rate.bytes <= brief.maxBytes).toBe(true);
      expect(encodedSound(bent)?.kbps ?? 0).toBeLessThanOrEqual(brief.maxSoundKbps ?? Infinity);
      // What was bent once is bent no further.
      expect(bendToBrief(bent, brief, FACTS).bent).toEqual([]);
    }
  });

  it('for the archive keeps the whole picture, whatever the order was', () => {
    const facts = factsOf({ width: 3840, height: 2160 }, { chroma: '4:2:2', bitDepth: 10 });
    const { brief } = STOCK_BRIEFS.find((one) => one.brief.name === 'Archive copy')!;
    const { recipe } = bendToBrief(STARTING_RECIPE, brief, facts);
    expect(renditionSize(facts, recipe)).toEqual({ width: 3840, height: 2160 });
    expect(recipe.video).toMatchObject({ codec: 'ffv1', chroma: '4:2:2', bitDepth: 10 });
  });

  it('that asks for nothing bends nothing', () => {
    fc.assert(
      fc.property(fc.constantFrom(...STOCK_RECIPES), ({ recipe }) => {
        expect(bendToBrief(recipe, OPEN_BRIEF, FACTS)).toEqual({ recipe, bent: [] });
      }),
    );
  });

  it('has what is held to a cap or a ceiling made in software, and leaves hardware where nothing is held', () => {
    const video = {
      ...STARTING_RECIPE.video,
      hardware: true,
      rate: { mode: 'average', kbps: 900, passes: 1 },
    } as const;
    const recipe = { ...STARTING_RECIPE, video };
    const isIn = (changes: Partial<typeof OPEN_BRIEF>) =>
      ratedVideo(bendToBrief(recipe, { ...OPEN_BRIEF, ...changes }, FACTS).recipe)?.hardware;
    expect([isIn({ maxBytes: 10e6 }), isIn({ maxPictureKbps: 2000 }), isIn({ maxWidth: 640 })]).toEqual([
      false,
      false,
      true,
    ]);
  });

  it('names what it bent', () => {
    const brief = { ...OPEN_BRIEF, maxHeight: 360, maxBytes: 5_000_000 };
    expect(bendToBrief(STARTING_RECIPE, brief, FACTS).bent).toEqual(['rate', 'frame size']);
    expect(changesOf(STARTING_RECIPE, STARTING_RECIPE)).toEqual([]);
  });

  it('brings sound to the loudness that is asked for, within what recipes take', () => {
    const loudness = { lufs: -50, within: 1, maxTruePeakDbtp: null };
    const { recipe, bent } = bendToBrief(STARTING_RECIPE, { ...OPEN_BRIEF, loudness }, FACTS);
    expect(recipe.audio).toMatchObject({ loudness: { lufs: -40, truePeakDbtp: -1 } });
    expect(bent).toEqual(['loudness']);
    const copied: Recipe = { ...STARTING_RECIPE, audio: COPIED_SOUND };
    expect(bendToBrief(copied, { ...OPEN_BRIEF, loudness }, FACTS).bent).toEqual([]);
    expect(findUnsuited({ ...OPEN_BRIEF, loudness }, FACTS, copied, 60)).toEqual([
      'It asks for −50 LUFS, and copied sound stays as loud as it is; encode it.',
    ]);
  });

  it('says what no setting changes, with its figure', () => {
    const brief = { ...OPEN_BRIEF, maxSeconds: 30, maxFrameRate: { num: 20, den: 1 }, shape: { num: 9, den: 16 } };
    expect(findUnsuited(brief, FACTS, STARTING_RECIPE, 60)).toEqual([
      'It takes at most 30 s, and this is 60.0 s long; mark a portion.',
      'It takes at most 20 fps, and this has 25.',
      'It asks for 9:16, and this picture is 1.78 times as wide as high; cut it to that shape.',
    ]);
  });

  it('passes or fails each rule with its figure', () => {
    const file = {
      name: 'a b.mp4',
      container: 'mp4',
      bytes: 12_000_000,
      facts: FACTS,
      pictureBytes: 10_000_000,
      loudness: { lufs: -16.4, truePeakDbtp: -0.4 },
    } as const;
    const brief = {
      ...OPEN_BRIEF,
      maxBytes: 10_000_000,
      containers: ['mp4'] as const,
      plainName: true,
      maxWidth: 1920,
    };
    expect(checkBrief(brief, file)).toEqual([
      { name: 'Size', ok: false, expected: 'at most 10,000,000 bytes', found: '12,000,000 bytes' },
      { name: 'Container', ok: true, expected: 'MP4', found: 'MP4' },
      { name: 'File name', ok: false, expected: 'letters, digits, - and _ alone', found: 'a b.mp4' },
      { name: 'Width', ok: true, expected: 'at most 1,920 pixels', found: '1,920 pixels' },
    ]);
  });

  it('holds loudness and true peak to what was heard', () => {
    const file = (lufs: number, truePeakDbtp: number) => ({
      name: 'talk.m4a',
      container: 'm4a' as const,
      bytes: 1,
      facts: FACTS,
      pictureBytes: 0,
      loudness: { lufs, truePeakDbtp },
    });
    const brief = { ...OPEN_BRIEF, loudness: { lufs: -14, within: 1, maxTruePeakDbtp: -1 } };
    expect(checkBrief(brief, file(-16.4, -0.4))).toEqual([
      { name: 'Loudness', ok: false, expected: '−14 LUFS, ± 1 LU', found: '−16.4 LUFS' },
      { name: 'True peak', ok: false, expected: 'at most −1 dBTP', found: '−0.4 dBTP' },
    ]);
    expect(checkBrief(brief, file(-15, -1)).every(({ ok }) => ok)).toBe(true);
    expect(checkBrief(brief, file(-Infinity, -90))[0]).toMatchObject({ ok: false, found: 'silent' });
  });
});

describe('ceilings of a brief', () => {
  it('are the sizes of a whole file, the lowest first', () => {
    const brief = { ...OPEN_BRIEF, maxBytes: 10_000_000, maxTotalKbps: 1000, maxPictureKbps: 800 };
    // 60 s at 1,000 kb/s are 7.5 MB; at 800 kb/s 6 MB of picture, and half a megabyte of sound and container.
    expect(ceilingsOf(brief, 60, 500_000)).toEqual([
      { name: 'highest rate of the picture', bytes: 6_500_000 },
      { name: 'highest rate', bytes: 7_500_000 },
      { name: 'largest file', bytes: 10_000_000 },
    ]);
  });

  it('are none where nothing is asked for', () => {
    expect(ceilingsOf(OPEN_BRIEF, 60, 500_000)).toEqual([]);
  });
});
