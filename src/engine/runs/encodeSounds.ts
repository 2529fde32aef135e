import type { EncodedSoundStream } from '../../core/plan/encodePlan.ts';
import { losesSamples } from '../../core/sound/codecs.ts';
import { correctGain, firstGain, type Gain } from '../../core/sound/loudness.ts';
import type { Level } from '../../core/sound/steps.ts';
import { soundArguments } from '../arguments/encode.ts';
import type { RunOptions, SoundsRequest } from '../engine.ts';
import { encode } from './encode.ts';
import type { EnginePaths } from './limits.ts';
import { hearSource, measureLoudness } from './loudness.ts';

/** The first is exact where nothing is limited; limiting and loss are mended by the next two (measured). */
const MOST_ENCODES = 4;

/** Encodes sounds; those that have a level are listened to before, and again as they came out, until they keep to it. */
export async function encodeSounds(paths: EnginePaths, request: SoundsRequest, options: RunOptions): Promise<void> {
  const { container, source, output, labels } = request;
  let sounds = await mapInTurn(request.sounds, (sound) =>
    withLevel(sound, async ({ target }) =>
      firstGain(await hearSource(paths, sound, source, options), target, losesSamples(sound.do.codec)),
    ),
  );
  for (let encodes = 1; ; encodes += 1) {
    await encode(paths, soundArguments(sounds, container, source, output, labels), options);
    if (encodes === MOST_ENCODES || !sounds.some(levelOf)) return;
    let isChanged = false;
    sounds = await mapInTurn(sounds, (sound, track) =>
      withLevel(sound, async ({ target, gain }) => {
        const better = gain && correctGain(gain, await measureLoudness(paths, output, track, options.signal), target);
        isChanged ||= better !== null;
        return better ?? gain;
      }),
    );
    if (!isChanged) return;
  }
}

function levelOf({ chain }: EncodedSoundStream): Level | undefined {
  return chain.find((step) => step.step === 'level');
}

/** The sound with the gain of its level decided. */
async function withLevel(
  sound: EncodedSoundStream,
  decide: (level: Level) => Promise<Gain | null>,
): Promise<EncodedSoundStream> {
  const level = levelOf(sound);
  if (!level) return sound;
  const gain = await decide(level);
  return { ...sound, chain: sound.chain.map((step) => (step === level ? { ...level, gain } : step)) };
}

async function mapInTurn<From, To>(
  list: readonly From[],
  make: (one: From, index: number) => Promise<To>,
): Promise<To[]> {
  const made: To[] = [];
  for (const [index, one] of list.entries()) made.push(await make(one, index));
  return made;
}
