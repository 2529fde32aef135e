import type { AudioFacts, ProgrammeFacts } from './facts.ts';

/** Tracks that begin, or end, further apart were not cut from one sound. */
const APART_SECONDS = 0.1;

/** Names of channels, and the numbers that writers give tracks; any other title says that a track is something by itself. */
const CHANNEL_NAME =
  /^(left|right|cent(re|er)|l|r|c|lfe|ls|rs|lt|rt|(left|right) surround|((audio|sound) ?)?(channel|ch|track|mono)?[ .#-]*\d*)$/i;

/** Six channels are 5.1 in this order (ITU-R BS.775, SMPTE ST 320). */
const SURROUND = 6;

/**
 * Which tracks are the channels of one sound. Programmes exported for broadcasting, and out of many cameras, have a track of its own for
 * each channel: the first two are left and right (common practice, no source), and six of them 5.1.
 *
 * @returns Numbers of tracks from 0, in the order of their channels; null where each track is a sound by itself.
 */
export function channelTracks(audio: readonly AudioFacts[]): readonly number[] | null {
  const [first] = audio;
  if (!first || audio.length < 2 || !audio.every((track) => isChannelBeside(first, track))) return null;
  return audio.slice(0, audio.length === SURROUND ? SURROUND : 2).map((_, index) => index);
}

function isChannelBeside(first: AudioFacts, track: AudioFacts): boolean {
  const near = (one: number, other: number) => Math.abs(one - other) <= APART_SECONDS;
  return (
    track.channels === 1 &&
    track.codec === first.codec &&
    track.sampleRate === first.sampleRate &&
    track.language === first.language &&
    (track.title === null || track.title === first.title || CHANNEL_NAME.test(track.title.trim())) &&
    near(track.startSeconds, first.startSeconds) &&
    near(track.durationSeconds, first.durationSeconds)
  );
}

/** The tracks that are heard as a programme's sound: the first, or those that are its channels. */
export function heardTracks(audio: readonly AudioFacts[]): readonly AudioFacts[] {
  return channelTracks(audio)?.flatMap((index) => audio[index] ?? []) ?? audio.slice(0, 1);
}

/** A programme's sound as it is listened to. */
export interface HeardSound {
  /** Positions in the file: of one track, or of those of one channel each that are the channels of one sound. */
  readonly streamIndexes: readonly number[];
  /** Where the programme begins on the file's clock. */
  readonly startSeconds: number;
  readonly channels: number;
}

/** How a programme's sound is listened to; null where it has none. */
export function listenTo({ video, audio }: Pick<ProgrammeFacts, 'video' | 'audio'>): HeardSound | null {
  const tracks = heardTracks(audio);
  const [track] = tracks;
  if (!track) return null;
  return {
    streamIndexes: tracks.map(({ index }) => index),
    startSeconds: video?.startSeconds ?? track.startSeconds,
    channels: tracks.length > 1 ? tracks.length : track.channels,
  };
}
