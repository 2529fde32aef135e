import type { Container } from '../container/names.ts';
import { aac } from './aac.ts';
import type { SoundDefinition } from './definition.ts';
import { flac } from './flac.ts';
import { mp3 } from './mp3.ts';
import { opus } from './opus.ts';
import { pcm } from './pcm.ts';
import { vorbis } from './vorbis.ts';

const definitions = { aac, opus, vorbis, mp3, flac, pcm } satisfies Record<string, SoundDefinition>;

/** A sound codec that Linstock writes, by the name recipes give it. */
export type SoundCodec = keyof typeof definitions;

/** What each sound codec is and can do. */
export const SOUND: Readonly<Record<SoundCodec, SoundDefinition>> = definitions;

/** All of them, in the order they are offered. */
export const SOUND_CODECS = Object.keys(definitions) as readonly SoundCodec[];

/** The codec that files call by a name of the engine's; null for one that is not written. */
export function soundCodecOf(stored: string): SoundCodec | null {
  return SOUND_CODECS.find((codec) => SOUND[codec].storedAs.includes(stored)) ?? null;
}

/** Whether a codec keeps less than every sample. */
export function losesSamples(codec: SoundCodec): boolean {
  return SOUND[codec].rate.kind === 'asked';
}

/** The sound codecs that go into a container. */
export function soundCodecsOf(container: Container): readonly SoundCodec[] {
  return SOUND_CODECS.filter((codec) => SOUND[codec].containers.includes(container));
}
