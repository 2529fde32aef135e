import type { ProgrammeView } from '../../contract/views.ts';
import { nameSourceCodec } from '../../core/programme/sourceCodecs.ts';
import { nameFrameRate } from '../../core/timing/frameRate.ts';
import { formatBytes, formatLength, formatRate } from '../kit/format.ts';

/** What a programme is, in one sentence. */
export function describeProgramme(programme: ProgrammeView): string {
  const { video, audio } = programme;
  const track = audio[0];
  const sound = track
    ? `${nameSourceCodec(track.codec)} ${channelName(track.channels)} at ${track.sampleRate / 1000} kHz`
    : 'no sound';
  const weight = `${formatBytes(programme.bytes)}, ${formatRate((programme.bytes * 8) / programme.durationSeconds)} on average`;
  if (!video) return `${formatLength(programme.durationSeconds)} of sound only, ${sound}; ${weight}.`;
  const around = video.constantRate ? '' : 'a varying rate around ';
  const picture = `${programme.width} × ${programme.height} at ${around}${nameFrameRate(programme.frameRate)} frames a second`;
  return `${formatLength(programme.durationSeconds)} of ${nameSourceCodec(video.codec)}, ${picture}, with ${sound}; ${weight}.`;
}

/** How many channels, as people say it. */
export function channelName(channels: number): string {
  return { 1: 'mono', 2: 'stereo', 6: '5.1' }[channels] ?? `${channels} channels`;
}
