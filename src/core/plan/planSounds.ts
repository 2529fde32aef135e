import { exactly, type Estimate } from '../budget/projections.ts';
import type { ProgrammeFacts } from '../programme/facts.ts';
import { isCopied, type Recipe } from '../recipe/recipe.ts';
import { weighSound } from '../sound/weighSound.ts';
import { bitsPerSecond } from '../units.ts';
import type { SoundStream, SourceSpan } from './encodePlan.ts';
import { planCopiedSound, weighTrack } from './planCopy.ts';

/** A sound of the result, with what it is expected to weigh. */
export interface PlannedSound {
  readonly stream: SoundStream;
  readonly weight: Estimate;
}

/** The sounds a recipe makes of a programme, as long as the span to the sample; none where it has none. */
export function planSounds(facts: ProgrammeFacts, { video, audio }: Recipe, span: SourceSpan): PlannedSound[] {
  if (!audio) return [];
  const track = facts.audio[isCopied(audio) ? 0 : (audio.tracks[0] ?? 0)];
  if (!track) return [];
  if (isCopied(audio)) {
    const fromSeconds = video && !isCopied(video) ? (facts.video?.startSeconds ?? 0) : 0;
    return [{ stream: planCopiedSound(track, fromSeconds), weight: exactly(weighTrack(track)) }];
  }
  const { codec, kbps, bitDepth, sampleRate, channels } = audio;
  const samples = Math.round(span.seconds * sampleRate);
  const startSeconds = (facts.video?.startSeconds ?? track.startSeconds) + span.startSeconds;
  return [
    {
      stream: {
        kind: 'sound',
        from: { streamIndex: track.index },
        do: { kind: 'encode', codec, rate: kbps === null ? null : bitsPerSecond(kbps * 1000), bitDepth },
        chain: [
          { step: 'begin', startSeconds },
          { step: 'resample', sampleRate },
          { step: 'last', samples },
          { step: 'mix', channels },
        ],
        out: { sampleRate, samples, channels },
      },
      weight: weighSound(audio, span.seconds),
    },
  ];
}
