import { SOUND } from '../sound/codecs.ts';
import { usualKbps } from '../sound/definition.ts';
import { withoutPicture, withSoundCodec, withVideoCodec } from './changeRecipe.ts';
import { atQuality, OWN_PICTURE, plainVideo, STARTING_RECIPE, type RateChoice, type Recipe } from './recipe.ts';
import { RATED, type RatedCodec } from '../video/codecs.ts';
import type { Container } from '../container/names.ts';
import type { SoundCodec } from '../sound/codecs.ts';
import type { Effort } from '../video/definition.ts';

/** A recipe that ships, with a sentence when to use it. */
export interface StockRecipe {
  readonly id: string;
  readonly recipe: Recipe;
  readonly notes: string;
}

interface Sketch {
  readonly container: Container;
  readonly codec: RatedCodec;
  readonly rate?: RateChoice;
  readonly effort?: Effort;
  /** Lines at most; null keeps the source's own frame size. */
  readonly lines: number | null;
  readonly sound: SoundCodec;
  readonly kbps?: number;
}

function sketch(name: string, { container, codec, rate, effort, lines, sound, kbps }: Sketch): Recipe {
  const width = lines === null ? undefined : Math.round((lines * 16) / 9 / 2) * 2;
  return {
    ...STARTING_RECIPE,
    name,
    container,
    video: plainVideo(codec, rate ?? atQuality(RATED[codec].quality.usual), effort),
    picture: { ...OWN_PICTURE, fit: lines === null || width === undefined ? null : { width, height: lines } },
    audio: soundOf(sound, kbps),
  };
}

function soundOf(codec: SoundCodec, asked?: number): Recipe['audio'] {
  const { rate } = SOUND[codec];
  const kbps = rate.kind === 'asked' ? (asked ?? usualKbps(rate, 'stereo')) : null;
  return { ...STARTING_RECIPE.audio, codec, kbps, bitDepth: rate.kind === 'whole' ? 16 : null };
}

/** Sound alone, for listening. */
function soundOnly(name: string, container: Container, codec: SoundCodec): Recipe {
  return withSoundCodec({ ...withoutPicture(STARTING_RECIPE), name, container }, codec);
}

/** For editing and the archive, whole and large, with every channel at the depth that masters have. */
function kept(name: string, codec: 'prores' | 'ffv1', container: Container, sound: SoundCodec): Recipe {
  const base = { ...STARTING_RECIPE, name, picture: { ...OWN_PICTURE, pixelAspect: 'source' } as const };
  const audio = { ...STARTING_RECIPE.audio, codec: sound, kbps: null, channels: 'source', bitDepth: 24 } as const;
  return { ...withVideoCodec({ ...base, container }, codec), container, audio };
}

/** What an order of a programme of sound alone begins as. */
export const SOUND_RECIPE = soundOnly('Talk to listen to', 'm4a', 'aac');

/** Recipes that ship. What suits where is common practice, no source. */
export const STOCK_RECIPES: readonly StockRecipe[] = [
  {
    id: 'stock-web-1080',
    recipe: sketch('Web 1080', { container: 'mp4', codec: 'h264', lines: 1080, sound: 'aac', kbps: 160 }),
    notes: 'When it must play everywhere and be seen large.',
  },
  {
    id: 'stock-web-720',
    recipe: sketch('Web 720', { container: 'mp4', codec: 'h264', lines: 720, sound: 'aac' }),
    notes: 'The usual version for a web page: plays everywhere, half the bytes of 1080.',
  },
  {
    id: 'stock-web-480',
    recipe: sketch('Web 480', { container: 'mp4', codec: 'h264', lines: 480, sound: 'aac', kbps: 96 }),
    notes: 'For slow lines and small windows.',
  },
  {
    id: 'stock-small-720',
    recipe: sketch('Small 720', { container: 'mp4', codec: 'hevc', lines: 720, sound: 'aac' }),
    notes: 'When the receiver’s players are new: about a third smaller than H.264.',
  },
  {
    id: 'stock-open-720',
    recipe: sketch('Open 720', { container: 'webm', codec: 'vp9', lines: 720, sound: 'opus' }),
    notes: 'Open formats throughout, for browsers.',
  },
  {
    id: 'stock-smallest-720',
    recipe: sketch('Smallest 720', { container: 'mp4', codec: 'av1', lines: 720, sound: 'opus' }),
    notes: 'The fewest bytes for browsers of the last years; slow to make on old machines.',
  },
  {
    id: 'stock-fill-25',
    recipe: sketch('Fill 25 MB', {
      container: 'mp4',
      codec: 'h264',
      rate: { mode: 'size', bytes: 25_000_000 },
      lines: 720,
      sound: 'aac',
    }),
    notes: 'When a file may have 25 MB and not a byte more.',
  },
  {
    id: 'stock-half',
    recipe: sketch('Half of it', {
      container: 'mp4',
      codec: 'h264',
      rate: { mode: 'share', ofSource: 0.5 },
      lines: null,
      sound: 'aac',
      kbps: 160,
    }),
    notes: 'Half the bytes of the master at its own frame size.',
  },
  {
    id: 'stock-review',
    recipe: sketch('Quick review', {
      container: 'mp4',
      codec: 'h264',
      rate: atQuality(28),
      effort: 'fast',
      lines: 540,
      sound: 'aac',
      kbps: 96,
    }),
    notes: 'Made in no time, good enough to comment on.',
  },
  {
    id: 'stock-talk',
    recipe: SOUND_RECIPE,
    notes: 'The sound alone, for players and feeds.',
  },
  {
    id: 'stock-editing',
    recipe: kept('For editing', 'prores', 'mov', 'pcm'),
    notes: 'To be cut and graded further: large, every frame by itself.',
  },
  {
    id: 'stock-archive',
    recipe: kept('For the archive', 'ffv1', 'matroska', 'flac'),
    notes: 'Nothing is lost; about half the bytes of bare frames.',
  },
];
