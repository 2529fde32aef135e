import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { execFileSync } from 'node:child_process';
import { recipeSchema } from '../../src/contract/recipe.ts';
import { parseWith } from '../../src/contract/strictObject.ts';
import { CONTAINER } from '../../src/core/container/containers.ts';
import { CONTAINERS } from '../../src/core/container/names.ts';
import { FLIPS, TURNS } from '../../src/core/geometry/preparation.ts';
import { CHROMAS, PICTURE_DEPTHS } from '../../src/core/picture/store.ts';
import { SOUND, soundCodecsOf } from '../../src/core/sound/codecs.ts';
import {
  CHANNEL_CHOICES,
  SAMPLE_RATES,
  SOUND_DEPTHS,
  kbpsRange,
  nominalLayout,
} from '../../src/core/sound/definition.ts';
import { isRated, MASTERS, RATED, videoCodecsOf } from '../../src/core/video/codecs.ts';
import { EFFORTS } from '../../src/core/video/definition.ts';
import { PROFILES, TIERS, TUNES } from '../../src/core/video/fine.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { seededRandom } from '../../src/testing/seededRandom.ts';
import { makeRendition } from '../../tests/support/encode.ts';

const ENCODES = 300;

/** Tiny encodes of random recipes: none that core accepts is refused by the engine, and none fails its checks. */
export async function benchRecipes(): Promise<void> {
  const folder = await mkdtemp(path.join(tmpdir(), 'linstock-bench-recipes-'));
  const master = path.join(folder, 'master.mov');
  const source = ['-f', 'lavfi', '-i', 'testsrc2=s=192x128:r=25:d=0.6', '-f', 'lavfi', '-i', 'sine=440:d=0.6:r=48000'];
  execFileSync('ffmpeg', [
    '-v',
    'error',
    ...source,
    '-pix_fmt',
    'yuv420p',
    '-c:v',
    'libx264',
    '-c:a',
    'pcm_s16le',
    master,
  ]);
  const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
  const random = seededRandom(12);
  const count = { made: 0, refused: 0 };
  const faults: string[] = [];
  while (count.made < ENCODES) {
    const recipe = randomRecipe(random);
    const parsed = parseWith(recipeSchema, recipe);
    if (!parsed.ok) {
      faults.push(`schema: ${parsed.faults[0].message} ${JSON.stringify(recipe)}`);
      count.made += 1;
      continue;
    }
    try {
      const { checks } = await makeRendition(engine, folder, master, recipe);
      count.made += 1;
      const failed = checks.filter(({ ok }) => !ok);
      const said = failed.map((check) => `${check.name}: ${check.expected}, found ${check.found}`);
      if (failed.length > 0) faults.push(`${said.join('; ')} ${JSON.stringify(recipe)}`);
    } catch (error) {
      const name = (error as Error).name;
      // Core refuses with a plain error; the engine with its own.
      if (name === 'Error') count.refused += 1;
      else {
        count.made += 1;
        faults.push(`${name}: ${(error as Error).message} ${JSON.stringify(recipe)}`);
      }
    }
  }
  await rm(folder, { recursive: true, force: true });
  console.log(`\nRandom recipes: ${count.made} encoded, ${count.refused} refused by core, ${faults.length} faults`);
  faults.forEach((fault) => console.log(fault));
}

function randomRecipe(random: () => number): object {
  const one = <Value>(list: readonly Value[]): Value => list[Math.floor(random() * list.length)]!;
  const now = (share: number) => random() < share;
  const container = one(CONTAINERS);
  const hasPicture = CONTAINER[container].withPicture !== null && now(0.85);
  const codec = one(videoCodecsOf(container));
  const sound = one(soundCodecsOf(container));
  const { rate } = SOUND[sound];
  const channels = one(CHANNEL_CHOICES);
  const whole = rate.kind === 'whole';
  const range = whole ? [0, 0] : kbpsRange(rate, nominalLayout(channels));
  const audio = {
    codec: sound,
    channels,
    sampleRate: one(SOUND[sound].sampleRates.length > 1 ? SAMPLE_RATES : SOUND[sound].sampleRates),
    ...(now(0.3)
      ? { loudness: { lufs: -30 + Math.round(random() * 16), truePeakDbtp: -1 - Math.round(random() * 3) } }
      : { gainDb: now(0.3) ? Math.round(random() * 40) - 20 : 0 }),
    fadeInSeconds: now(0.2) ? random() * 2 : 0,
    fadeOutSeconds: now(0.2) ? random() * 2 : 0,
    delayMs: now(0.2) ? Math.round(random() * 800) - 400 : 0,
    ...(whole ? { bitDepth: one(SOUND_DEPTHS) } : { kbps: Math.round(range[0]! + random() * (range[1]! - range[0]!)) }),
  };
  const rates = ['half', { atMost: { num: 20, den: 1 } }, { num: 30, den: 1 }, { num: 24_000, den: 1001 }];
  const time = { frameRate: now(0.3) ? one(rates) : 'source' };
  if (!hasPicture) return { container, video: null, audio };
  return {
    container,
    video: isRated(codec) ? ratedVideo() : masterVideo(),
    audio: now(0.8) ? audio : null,
    picture: randomPicture(random),
    time,
  };

  function ratedVideo(): object {
    if (!isRated(codec)) return {};
    const { quality, fine, averagePasses, levels } = RATED[codec];
    const kbps = Math.round(60 + random() * 2000);
    const passes = one(averagePasses);
    const rates = [
      { mode: 'quality', value: Math.round(quality.best + random() * (quality.worst - quality.best)) },
      { mode: 'quality', value: quality.usual, maxKbps: kbps },
      { mode: 'average', kbps, passes },
      { mode: 'variable', kbps, maxKbps: kbps * 2, passes },
      { mode: 'constant', kbps },
      { mode: 'size', bytes: Math.round(20_000 + random() * 200_000) },
      { mode: 'share', ofSource: 0.2 + random() },
    ];
    return {
      codec,
      rate: one(rates),
      effort: one(EFFORTS),
      chroma: now(0.7) ? '4:2:0' : one(CHROMAS),
      bitDepth: one(PICTURE_DEPTHS),
      ...(now(0.3) ? { tune: one(TUNES) } : {}),
      ...(now(0.2) ? { profile: one(PROFILES) } : {}),
      ...(now(0.2) && fine.level ? { level: one(levels.levels).name } : {}),
      ...(now(0.2) && fine.tier ? { tier: one(TIERS) } : {}),
      ...(now(0.3) ? { keyframes: { frames: Math.ceil(random() * 40) } } : {}),
      ...(now(0.2) && fine.bFrames ? { reordering: now(0.5), bFrames: Math.ceil(random() * 6) } : {}),
      ...(now(0.2) && fine.closedGroups ? { closedGroups: now(0.5) } : {}),
    };
  }

  function masterVideo(): object {
    if (isRated(codec)) return {};
    return { codec, flavour: one(MASTERS[codec].flavours).key };
  }
}

/** How the picture comes into its frame: fitted as a rule, and cropped, turned, cut and padded in any way besides. */
function randomPicture(random: () => number): object {
  const one = <Value>(list: readonly Value[]): Value => list[Math.floor(random() * list.length)]!;
  const now = (share: number) => random() < share;
  const even = (least: number, most: number) => 2 * Math.round((least + random() * (most - least)) / 2);
  const frame = () => ({ width: even(64, 256), height: even(64, 256) });
  const framing = one([
    { fit: { height: 72 } },
    { fit: { height: 72 } },
    { fill: frame() },
    { pad: { ...frame(), with: one(['#000000', '#3366cc', 'blur']) } },
  ]);
  return {
    ...framing,
    ...(now(0.2) ? { crop: { top: even(0, 8), bottom: 0, left: even(0, 16), right: even(0, 16) } } : {}),
    ...(now(0.3) ? { rotate: one(TURNS) } : {}),
    ...(now(0.2) ? { flip: one(FLIPS) } : {}),
    ...(now(0.25) ? { denoise: random() } : {}),
    ...(now(0.25)
      ? {
          adjust: {
            brightness: random() - 0.5,
            contrast: 2 * random(),
            saturation: 2 * random(),
            gamma: 0.4 + 2 * random(),
          },
        }
      : {}),
  };
}
