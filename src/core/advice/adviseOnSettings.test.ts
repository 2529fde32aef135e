import { describe, expect, it } from 'vitest';
import { clockOf, factsOf } from '../../testing/facts.ts';
import type { Found } from '../plan/planRequest.ts';
import { planRendition } from '../plan/planRendition.ts';
import type { ProgrammeFacts, VideoFacts } from '../programme/facts.ts';
import { atQuality, encodedSound, OWN_PICTURE, plainVideo, STARTING_RECIPE, type Recipe } from '../recipe/recipe.ts';
import { SOUND_CODECS } from '../sound/codecs.ts';
import type { Sounding } from '../sounding/sounding.ts';
import { VIDEO_CODECS } from '../video/codecs.ts';
import { applyFix, isApplied } from './applyFix.ts';

const H264 = plainVideo('h264', atQuality(23));

const SOUNDING: Sounding = {
  codec: 'h264',
  size: { width: 1280, height: 720 },
  points: [
    { quality: 12, bitsPerSecond: 8_000_000 },
    { quality: 23, bitsPerSecond: 2_000_000 },
    { quality: 51, bitsPerSecond: 50_000 },
  ],
};

function adviceOn(
  recipe: Partial<Recipe>,
  facts: ProgrammeFacts = factsOf(),
  sounding: Sounding | null = null,
  found: Found | null = null,
) {
  const whole = { ...STARTING_RECIPE, video: H264, ...recipe };
  const encoders = [...VIDEO_CODECS, ...SOUND_CODECS];
  const clock = clockOf(facts);
  const outcome = planRendition({ facts, clock, recipe: whole, portion: null, encoders, sounding, found });
  if (!outcome.ok) throw new Error(outcome.problems[0]?.message);
  return { recipe: whole, facts, advisories: outcome.plan.advisories };
}

const aac = (bitsPerSecond: number) => factsOf().audio.map((track) => ({ ...track, codec: 'aac', bitsPerSecond }));
const withVideo = (video: Partial<VideoFacts>) => factsOf({}, video);
const master = { codec: 'prores', flavour: 'standard', chroma: '4:2:2', bitDepth: 10, alpha: false } as const;

const pair = [1, 2].map((index) => ({ ...factsOf().audio[0]!, index, channels: 1, language: null, title: null }));

/** Code, the order that brings it, and what its fix makes of the order. */
const TOLD: readonly (readonly [string, Partial<Recipe>, ProgrammeFacts, object | null, Sounding | null])[] = [
  ['channel-alone', {}, factsOf({ audio: pair }), { audio: { tracks: [0, 1], joined: true } }, null],
  [
    'channel-alone',
    { container: 'webm', video: plainVideo('vp9', atQuality(32)), audio: { codec: 'copy', tracks: [0] } },
    factsOf({ audio: pair.map((track) => ({ ...track, codec: 'opus' })) }),
    { audio: { codec: 'opus', tracks: [0, 1], joined: true } },
    null,
  ],
  [
    'picture-enlarged',
    { picture: { ...OWN_PICTURE, fill: { width: 1080, height: 1920 } } },
    factsOf({ width: 1920, height: 1080 }),
    // 608 × 1080 of it are enlarged by 1.78.
    { picture: { fill: { width: 608, height: 1080 } } },
    null,
  ],
  [
    'picture-enlarged',
    { picture: { ...OWN_PICTURE, pad: { width: 3840, height: 3840, with: 'blur' } } },
    factsOf({ width: 1920, height: 1080 }),
    { picture: { pad: { width: 1920, height: 1920 } } },
    null,
  ],
  [
    'rate-above-source',
    { video: plainVideo('h264', { mode: 'average', kbps: 9000, passes: 2 }) },
    withVideo({ bitsPerSecond: 5_000_000 }),
    { video: { rate: { mode: 'average', kbps: 5000 } } },
    null,
  ],
  [
    'cap-above-source',
    { video: plainVideo('h264', { mode: 'size', bytes: 90_000_000 }) },
    factsOf({ bytes: 48_123_456 }),
    { video: { rate: { mode: 'size', bytes: 48_100_000 } } },
    null,
  ],
  [
    'cap-above-source',
    { video: plainVideo('h264', { mode: 'size', bytes: 5e6 }) },
    factsOf({ bytes: 1e6 }),
    null,
    null,
  ],
  [
    'picture-starved',
    { video: plainVideo('h264', { mode: 'average', kbps: 300, passes: 2 }) },
    factsOf(),
    { picture: { fit: { height: 360 } } },
    SOUNDING,
  ],
  ['sound-above-source', {}, factsOf({ audio: aac(96_000) }), { audio: { kbps: 96 } }, null],
  [
    'sound-above-source',
    { audio: { ...STARTING_RECIPE.audio, tracks: [0, 1], joined: true } },
    factsOf({ audio: pair.map((track) => ({ ...track, codec: 'aac', bitsPerSecond: 48_000 })) }),
    { audio: { kbps: 96, joined: true } },
    null,
  ],
  [
    'keyframes-far',
    { video: { ...H264, keyframes: { seconds: 30 } } },
    factsOf(),
    { video: { keyframes: { seconds: 5 } } },
    null,
  ],
  [
    'keyframes-near',
    { video: { ...H264, keyframes: { frames: 5 } } },
    factsOf(),
    { video: { keyframes: { seconds: 5 } } },
    null,
  ],
  [
    'pixels-refused',
    { video: { ...H264, bitDepth: 10 } },
    factsOf(),
    { video: { bitDepth: 8, chroma: '4:2:0' } },
    null,
  ],
  [
    'pixels-stay-stretched',
    { picture: { ...OWN_PICTURE, pixelAspect: 'source' } },
    withVideo({ pixelAspect: { num: 64, den: 45 } }),
    { picture: { pixelAspect: 'square' } },
    null,
  ],
  [
    'stored-in-part',
    { container: 'matroska', video: { ...master, codec: 'ffv1', flavour: 'lossless', chroma: '4:2:0' }, audio: null },
    withVideo({ chroma: '4:2:2', bitDepth: 10 }),
    { video: { chroma: '4:2:2', bitDepth: 10 } },
    null,
  ],
  [
    'high-dynamic-range',
    {},
    withVideo({ colour: { primaries: 'bt2020', transfer: 'smpte2084', matrix: 'bt2020nc', range: 'limited' } }),
    { picture: { dynamicRange: 'standard' } },
    null,
  ],
  ['not-played-everywhere', { container: 'mov' }, factsOf(), null, null],
  ['not-played-everywhere', { video: plainVideo('hevc', atQuality(24)) }, factsOf(), null, null],
  ['second-loss', {}, withVideo({ bitsPerSecond: 2_000_000 }), null, null],
  ['transparency-lost', {}, withVideo({ alpha: true }), null, null],
  [
    'transparency-lost',
    { container: 'mov', video: master, audio: null },
    withVideo({ alpha: true }),
    { video: { flavour: '4444', alpha: true, chroma: '4:4:4' } },
    null,
  ],
  [
    'transparency-lost',
    { container: 'webm', video: plainVideo('vp9', { mode: 'size', bytes: 9e6 }), audio: null },
    withVideo({ alpha: true }),
    { video: { alpha: true, rate: { mode: 'quality', value: 32 } } },
    null,
  ],
];

describe('advice on settings', () => {
  it.each(TOLD)('%s is told, and its fix does away with it', (code, recipe, facts, fixed, sounding) => {
    const told = adviceOn(recipe, facts, sounding);
    const advisory = told.advisories.find((one) => one.code === code);
    expect(advisory?.message).toMatch(/\.$/);
    expect(advisory?.fix !== undefined).toBe(fixed !== null);
    if (!advisory?.fix) return;
    const before = { recipe: told.recipe, portion: null };
    expect(isApplied(facts, advisory.fix, before)).toBe(false);
    const after = applyFix(facts, advisory.fix, before);
    expect(after.recipe).toMatchObject(fixed!);
    expect(isApplied(facts, advisory.fix, after)).toBe(true);
    // The frame size was sounded for the larger one.
    const again = adviceOn(after.recipe, facts).advisories.map((one) => one.code);
    expect(again).not.toContain(code);
  });

  it.each<readonly [string, Partial<Recipe>, ProgrammeFacts]>([
    ['a plain order', {}, factsOf()],
    ['a rate below the source', { video: plainVideo('h264', { mode: 'average', kbps: 3000, passes: 2 }) }, factsOf()],
    ['bare samples at any rate', { audio: { ...STARTING_RECIPE.audio, kbps: 320 } }, factsOf()],
    ['a master in MOV', { container: 'mov', video: master, audio: null }, factsOf()],
  ])('%s brings none', (_name, recipe, facts) => {
    expect(adviceOn(recipe, facts).advisories).toEqual([]);
  });
});

it('tells of no transparency that is lost where all of it is opaque', () => {
  const codes = (opaque: boolean | null) =>
    adviceOn({}, withVideo({ alpha: true }), null, { scan: null, loudness: null, opaque }).advisories.map(
      ({ code }) => code,
    );
  expect(codes(true)).toEqual([]);
  expect(codes(null)).toEqual(['transparency-lost']);
});

describe('advice on a level', () => {
  const levelled = (lufs: number): Partial<Recipe> => ({
    audio: { ...STARTING_RECIPE.audio, loudness: { lufs, truePeakDbtp: -1 } },
  });
  const foundOf = (integratedLufs: number, truePeakDbtp: number): Found => ({
    scan: null,
    opaque: null,
    loudness: { integratedLufs, rangeLu: 5, truePeakDbtp },
  });
  const heldIn = (recipe: Partial<Recipe>, found: Found | null, facts = factsOf()) =>
    adviceOn(recipe, facts, null, found).advisories.find(({ code }) => code === 'peaks-held');

  it('tells that peaks are held, and the level at which none is', () => {
    const found = foundOf(-24, -6);
    const told = heldIn(levelled(-16), found);
    expect(told).toMatchObject({ severity: 'note', fix: { level: { lufs: -20, truePeakDbtp: -1 } } });
    const { recipe } = applyFix(factsOf(), told!.fix!, {
      recipe: { ...STARTING_RECIPE, ...levelled(-16) },
      portion: null,
    });
    expect(heldIn(recipe, found)).toBeUndefined();
  });

  it('warns where so much is held that it is heard', () => {
    expect(heldIn(levelled(-14), foundOf(-30, -6))?.severity).toBe('caution');
  });

  it('tells the same of sound that is turned up, and by how much it might be', () => {
    const turned = (gainDb: number): Partial<Recipe> => ({ audio: { ...STARTING_RECIPE.audio, gainDb } });
    const found = foundOf(-24, -6);
    const told = heldIn(turned(8), found);
    expect(told).toMatchObject({ severity: 'note', field: 'audio.gainDb', fix: { kind: 'gain', db: 4 } });
    const state = { recipe: { ...STARTING_RECIPE, ...turned(8) }, portion: null };
    const { recipe } = applyFix(factsOf(), told!.fix!, state);
    expect(encodedSound(recipe)?.gainDb).toBe(4);
    expect(heldIn(recipe, found)).toBeUndefined();
    expect([isApplied(factsOf(), told!.fix!, state), isApplied(factsOf(), told!.fix!, { ...state, recipe })]).toEqual([
      false,
      true,
    ]);
    expect(heldIn(turned(-8), foundOf(-5, 0))).toBeUndefined();
    expect(heldIn(turned(3), foundOf(-9, -1))?.fix).toMatchObject({ db: 0, label: 'Leave it as loud as it is' });
  });

  it('is silent where no peak is near, nothing is known, or another track is taken', () => {
    expect(heldIn(levelled(-16), foundOf(-24, -12))).toBeUndefined();
    expect(heldIn(levelled(-16), null)).toBeUndefined();
    const second = { audio: { ...levelled(-16).audio, tracks: [1] } as Recipe['audio'] };
    const [track] = factsOf().audio;
    expect(heldIn(second, foundOf(-24, -6), factsOf({ audio: [track!, track!] }))).toBeUndefined();
  });
});
