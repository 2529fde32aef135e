import { describe, expect, it } from 'vitest';
import { atQuality, OWN_PICTURE, plainVideo, STARTING_RECIPE } from '../core/recipe/recipe.ts';
import { recipeSchema, renditionRequestSchema } from './recipe.ts';
import { parseWith } from './strictObject.ts';

const MINIMAL = { video: { codec: 'h264', rate: { mode: 'size', bytes: 48_000_000 } }, audio: { codec: 'aac' } };

function faultsOf(recipe: unknown) {
  const parsed = parseWith(recipeSchema, recipe);
  return parsed.ok ? [] : parsed.faults;
}

describe('the recipe', () => {
  it('takes the skeleton of the format as it stands', () => {
    const skeleton = {
      format: 'linstock.recipe/1',
      name: 'Web 720',
      container: 'mp4',
      video: { codec: 'h264', rate: { mode: 'size', bytes: 48000000 }, effort: 'balanced' },
      picture: { fit: { width: 1280, height: 720 } },
      time: { frameRate: 'source' },
      audio: { codec: 'aac', kbps: 128, channels: 'stereo', sampleRate: 48000 },
    };
    expect(parseWith(recipeSchema, skeleton)).toEqual({
      ok: true,
      value: {
        ...skeleton,
        video: { ...plainVideo('h264', { mode: 'size', bytes: 48000000 }) },
        picture: { ...OWN_PICTURE, ...skeleton.picture },
        audio: {
          ...skeleton.audio,
          ...{ bitDepth: null, loudness: null, tracks: [0], mixed: false, joined: false },
          ...{ gainDb: 0, fadeInSeconds: 0, fadeOutSeconds: 0, delayMs: 0 },
        },
        file: { chapters: true, captions: 'beside', captionTrack: 0, metadata: 'strip', name: null },
      },
    });
    expect(parseWith(recipeSchema, STARTING_RECIPE)).toEqual({ ok: true, value: STARTING_RECIPE });
  });

  it('fills in what is left out', () => {
    const parsed = parseWith(recipeSchema, MINIMAL);
    expect(parsed).toMatchObject({
      ok: true,
      value: {
        container: 'mp4',
        picture: { deinterlace: null, crop: null, fit: null },
        video: { effort: 'balanced' },
        audio: { kbps: 128 },
      },
    });
  });

  it('takes null for no picture and no sound', () => {
    expect(faultsOf({ ...MINIMAL, video: null })).toEqual([]);
    expect(faultsOf({ ...MINIMAL, audio: null })).toEqual([]);
  });

  it.each([
    ['an unknown key', { ...MINIMAL, sparkle: 1 }, '', /sparkle/],
    ['an unknown key inside', { ...MINIMAL, video: { ...MINIMAL.video, speed: 'x' } }, 'video', /speed/],
    [
      'tracks mixed and joined',
      { ...MINIMAL, audio: { codec: 'aac', mixed: true, joined: true } },
      'audio.joined',
      /either/,
    ],
    [
      'a rate of 0',
      { ...MINIMAL, video: { codec: 'h264', rate: { mode: 'average', kbps: 0, passes: 2 } } },
      'video.rate.kbps',
      /at least 20 kb\/s, got 0/,
    ],
    [
      'an unknown mode',
      { ...MINIMAL, video: { codec: 'h264', rate: { mode: 'magic' } } },
      'video.rate.mode',
      /quality, average, variable, constant, size, share/,
    ],
    [
      'text for a number',
      { ...MINIMAL, video: { codec: 'h264', rate: { mode: 'quality', value: '23' } } },
      'video.rate.value',
      /number/,
    ],
    [
      'a quality off the scale',
      { ...MINIMAL, video: { codec: 'hevc', rate: { mode: 'quality', value: 52 } } },
      'video.rate.value',
      /0 \(best\) to 51/,
    ],
    ['a missing rate', { ...MINIMAL, video: { codec: 'h264' } }, 'video.rate', /rate|mode/],
    [
      'an unknown codec',
      { ...MINIMAL, video: { codec: 'mpeg9', rate: { mode: 'quality', value: 23 } } },
      'video.codec',
      /h264, hevc/,
    ],
    [
      'an odd crop',
      { ...MINIMAL, picture: { crop: { top: 3, bottom: 0, left: 0, right: 0 } } },
      'picture.crop.top',
      /even/,
    ],
    ['an unknown field order', { ...MINIMAL, picture: { deinterlace: 'both' } }, 'picture.deinterlace', /top-first/],
    [
      'two frames',
      { ...MINIMAL, picture: { fit: { height: 720 }, fill: { width: 720, height: 1280 } } },
      'picture',
      /one of fit, fill and pad/,
    ],
    ['half a frame', { ...MINIMAL, picture: { fill: { width: 720 } } }, 'picture.fill.height', /height/],
    [
      'a padding of no colour',
      { ...MINIMAL, picture: { pad: { width: 720, height: 1280, with: 'black' } } },
      'picture.pad.with',
      /#000000, or blur/,
    ],
    ['a picture turned by 45°', { ...MINIMAL, picture: { rotate: 45 } }, 'picture.rotate', /0, 90, 180, 270/],
    ['more noise than there is', { ...MINIMAL, picture: { denoise: 1.5 } }, 'picture.denoise', /at most 1/],
    ['light from nowhere', { ...MINIMAL, picture: { adjust: { gamma: 0 } } }, 'picture.adjust.gamma', /at least 0\.1/],
    ['an empty fit', { ...MINIMAL, picture: { fit: {} } }, 'picture.fit', /width/],
    [
      'three passes',
      { ...MINIMAL, video: { codec: 'h264', rate: { mode: 'average', kbps: 500, passes: 3 } } },
      'video.rate.passes',
      /1 or 2/,
    ],
    ['a missing picture', { audio: null }, 'video', /picture/],
    ['a rate for bare samples', { ...MINIMAL, audio: { codec: 'pcm', kbps: 128 } }, 'audio.kbps', /keeps every sample/],
    ['a depth for AAC', { ...MINIMAL, audio: { codec: 'aac', bitDepth: 16 } }, 'audio.bitDepth', /has a rate/],
    ['20 bits a sample', { ...MINIMAL, audio: { codec: 'flac', bitDepth: 20 } }, 'audio.bitDepth', /16 or 24/],
    [
      'a fade of an hour',
      { ...MINIMAL, audio: { codec: 'aac', fadeOutSeconds: 3600 } },
      'audio.fadeOutSeconds',
      /60 s/,
    ],
    [
      'a gain beside a loudness',
      { ...MINIMAL, audio: { codec: 'aac', gainDb: 3, loudness: { lufs: -16 } } },
      'audio.gainDb',
      /says how loud it is/,
    ],
    ['copied sound turned up', { ...MINIMAL, audio: { codec: 'copy', gainDb: 3 } }, 'audio', /gainDb/],
    [
      'an unknown tune',
      { ...MINIMAL, video: { ...MINIMAL.video, tune: 'x' } },
      'video.tune',
      /film, drawn, grain, still, text/,
    ],
    [
      'a level of another codec',
      { ...MINIMAL, video: { ...MINIMAL.video, level: '7.9' } },
      'video.level',
      /3\.1, 3\.2/,
    ],
    [
      'keyframes in seconds and frames',
      { ...MINIMAL, video: { ...MINIMAL.video, keyframes: { seconds: 1, frames: 3 } } },
      'video.keyframes',
      /either/,
    ],
    ['9 bits', { ...MINIMAL, video: { ...MINIMAL.video, bitDepth: 9 } }, 'video.bitDepth', /8, 10, 12 or 16/],
    ['a rate for a master', { ...MINIMAL, video: { codec: 'prores', rate: {} } }, 'video', /rate/],
    ['an unknown flavour', { ...MINIMAL, video: { codec: 'prores', flavour: 'x' } }, 'video.flavour', /proxy, lt/],
    [
      'a varying rate without its highest',
      { ...MINIMAL, video: { codec: 'h264', rate: { mode: 'variable', kbps: 500, passes: 2 } } },
      'video.rate.maxKbps',
      /highest rate/,
    ],
    [
      'a share of ten times the source',
      { ...MINIMAL, video: { codec: 'h264', rate: { mode: 'share', ofSource: 10 } } },
      'video.rate.ofSource',
      /at most 4 times/,
    ],
  ])('refuses %s at its field', (_name, recipe, field, message) => {
    const found = faultsOf(recipe).find((fault) => fault.field === field);
    expect(found?.message).toMatch(message);
  });
});

describe('rates and sounds', () => {
  const parsedRate = (rate: object) => {
    const parsed = parseWith(recipeSchema, { ...MINIMAL, video: { codec: 'h264', rate } });
    return parsed.ok ? (parsed.value as { video: { rate: unknown } }).video.rate : parsed.faults;
  };

  it('have their defaults filled in', () => {
    expect(parsedRate({ mode: 'quality', value: 23 })).toEqual(atQuality(23));
    const held = { mode: 'quality', value: 23, maxKbps: 4000, bufferKbit: 6000 };
    expect(parsedRate(held)).toEqual(held);
    const variable = { mode: 'variable', kbps: 2000, maxKbps: 4000, passes: 2 };
    expect(parsedRate(variable)).toEqual({ ...variable, bufferKbit: null });
    expect(parsedRate({ mode: 'constant', kbps: 2000 })).toEqual({ mode: 'constant', kbps: 2000, bufferKbit: null });
    expect(parsedRate({ mode: 'share', ofSource: 0.5 })).toEqual({ mode: 'share', ofSource: 0.5 });
    expect(parseWith(recipeSchema, { ...MINIMAL, audio: { codec: 'pcm' } })).toMatchObject({
      value: { audio: { codec: 'pcm', kbps: null, bitDepth: 16, channels: 'stereo', sampleRate: 48000 } },
    });
  });
});

describe('masters', () => {
  it.each([
    [{ codec: 'prores' }, { flavour: 'standard', chroma: '4:2:2', bitDepth: 10, alpha: false }],
    [
      { codec: 'prores', flavour: '4444' },
      { flavour: '4444', chroma: '4:4:4', bitDepth: 10, alpha: false },
    ],
    [{ codec: 'ffv1' }, { flavour: 'lossless', chroma: '4:2:0', bitDepth: 8, alpha: false }],
  ])('%o have no rate, and pixels of their flavour', (video, expected) => {
    const parsed = parseWith(recipeSchema, { ...MINIMAL, container: 'matroska', video });
    expect(parsed).toMatchObject({ ok: true, value: { video: { ...video, ...expected } } });
  });
});

describe('an order', () => {
  it('wants whole frames', () => {
    const parsed = parseWith(renditionRequestSchema, {
      programmeId: 'x',
      recipe: MINIMAL,
      portion: { inFrame: 0.5, outFrame: 3 },
    });
    expect(parsed).toMatchObject({ ok: false, faults: [{ field: 'portion.inFrame' }] });
  });
});
