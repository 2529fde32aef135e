import { exactly, type Estimate } from '../budget/projections.ts';
import type { AudioFacts, ProgrammeFacts } from '../programme/facts.ts';
import { isCopied, isOneSound, type EncodedSound, type Recipe } from '../recipe/recipe.ts';
import { losesSamples } from '../sound/codecs.ts';
import { layoutOf, type Layout } from '../sound/definition.ts';
import { gainBy } from '../sound/loudness.ts';
import type { Fade } from '../sound/steps.ts';
import { soundKbps, weighSound } from '../sound/weighSound.ts';
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
  const tracks = audio.tracks.flatMap((index) => facts.audio[index] ?? []);
  if (isCopied(audio)) {
    const isPart = span.frameCount < facts.frameCount;
    const pictureSeconds = facts.video?.startSeconds ?? 0;
    const fromSeconds = isPart ? pictureSeconds + span.startSeconds : video && !isCopied(video) ? pictureSeconds : 0;
    return tracks.map((track) => ({
      stream: planCopiedSound(track, fromSeconds, isPart ? span.seconds : null),
      weight: exactly(weighTrack(track, isPart ? span.seconds : track.durationSeconds)),
    }));
  }
  const together = isOneSound(audio) && tracks.length > 1 ? [tracks] : tracks.map((track) => [track]);
  return together.map((from) => planEncodedSound(facts, audio, from, span));
}

function planEncodedSound(
  facts: ProgrammeFacts,
  audio: EncodedSound,
  from: readonly AudioFacts[],
  span: SourceSpan,
): PlannedSound {
  const { codec, bitDepth, sampleRate, loudness, gainDb, delayMs } = audio;
  const layout = soundLayout(audio, from) ?? 'stereo';
  const joined = audio.joined ? layoutOf(from.length) : null;
  const kbps = soundKbps(audio, layout);
  const samples = Math.round(span.seconds * sampleRate);
  const startSeconds = (facts.video?.startSeconds ?? from[0]?.startSeconds ?? 0) + span.startSeconds;
  const turned = gainDb === 0 ? null : gainBy(gainDb, losesSamples(codec));
  const fade = fadeOf(audio, samples);
  return {
    stream: {
      kind: 'sound',
      from: from.map(({ index }) => ({ streamIndex: index })),
      do: { kind: 'encode', codec, rate: kbps === null ? null : bitsPerSecond(kbps * 1000), bitDepth },
      chain: [
        { step: 'begin', startSeconds: startSeconds - delayMs / 1000 },
        { step: 'resample', sampleRate },
        ...(joined ? [{ step: 'join' as const, channels: joined }] : []),
        ...(loudness ? [{ step: 'level' as const, channels: layout, sampleRate, target: loudness, gain: null }] : []),
        ...(turned ? [{ step: 'turned' as const, channels: layout, sampleRate, gain: turned }] : []),
        { step: 'last', samples },
        ...(fade ? [fade] : []),
        { step: 'mix', channels: layout },
      ],
      out: { sampleRate, samples, channels: layout },
    },
    weight: weighSound(audio, layout, span.seconds),
  };
}

/** Fades no longer than the sound; null where there are none. */
function fadeOf({ fadeInSeconds, fadeOutSeconds, sampleRate }: EncodedSound, samples: number): Fade | null {
  const lasting = (seconds: number) => Math.min(samples, Math.round(seconds * sampleRate));
  const [inSamples, outSamples] = [lasting(fadeInSeconds), lasting(fadeOutSeconds)];
  return inSamples + outSamples > 0 ? { step: 'fade', inSamples, outSamples, samples } : null;
}

/**
 * The layout that tracks come out in.
 *
 * @param from - Tracks that are mixed or joined into one, or one alone.
 * @returns null where the source's own has no name.
 */
export function soundLayout({ channels, joined }: EncodedSound, from: readonly AudioFacts[]): Layout | null {
  if (channels !== 'source') return channels;
  return layoutOf(joined ? from.length : Math.max(0, ...from.map((track) => track.channels)));
}
