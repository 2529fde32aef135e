import type { ProgrammeFacts } from '../programme/facts.ts';
import type { EncodedSound } from '../recipe/recipe.ts';
import { bitsPerSecond } from '../units.ts';
import type { EncodedSoundStream, SourceSpan } from './encodePlan.ts';

/** The sounds a recipe makes of a programme, as long as the span to the sample; none where it has none. */
export function planSounds(facts: ProgrammeFacts, audio: EncodedSound | null, span: SourceSpan): EncodedSoundStream[] {
  const [track] = facts.audio;
  if (!audio || !track) return [];
  const { sampleRate, channels } = audio;
  const samples = Math.round(span.seconds * sampleRate);
  const startSeconds = (facts.video?.startSeconds ?? track.startSeconds) + span.startSeconds;
  return [
    {
      kind: 'sound',
      from: { streamIndex: track.index },
      do: { kind: 'encode', codec: audio.codec, rate: bitsPerSecond(audio.kbps * 1000) },
      chain: [
        { step: 'begin', startSeconds },
        { step: 'resample', sampleRate },
        { step: 'last', samples },
        { step: 'mix', channels },
      ],
      out: { sampleRate, samples, channels },
    },
  ];
}
