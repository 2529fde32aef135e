import type { Container } from '../container/names.ts';
import { aac } from './aac.ts';
import type { SoundDefinition } from './definition.ts';
import { opus } from './opus.ts';

const definitions = { aac, opus } satisfies Record<string, SoundDefinition>;

/** A sound codec that Linstock writes, by the name recipes give it. */
export type SoundCodec = keyof typeof definitions;

/** What each sound codec is and can do. */
export const SOUND: Readonly<Record<SoundCodec, SoundDefinition>> = definitions;

/** All of them, in the order they are offered. */
export const SOUND_CODECS = Object.keys(definitions) as readonly SoundCodec[];

/** Whether a codec by the engine's name is one that Linstock writes. */
export function isSoundCodec(codec: string): codec is SoundCodec {
  return codec in definitions;
}

/** The sound codecs that go into a container. */
export function soundCodecsOf(container: Container): readonly SoundCodec[] {
  return SOUND_CODECS.filter((codec) => SOUND[codec].containers.includes(container));
}
