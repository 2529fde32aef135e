import type { PicturePlan, SoundPlan, VideoEncodePlan } from '../../core/rate/encodePlan.ts';
import { PLAIN_FILE, QUIET_WITH_PROGRESS } from './encode.ts';
import { inputArguments } from './input.ts';

/** What is copied out of a master as it is. */
export interface CopyRequest {
  readonly picture: PicturePlan;
  readonly video: VideoEncodePlan;
  readonly sound: SoundPlan | null;
  readonly source: string;
  readonly output: string;
}

/** Arguments that put a master's own picture and sound into a file for the web, untouched. */
export function copyArguments({ picture, video, sound, source, output }: CopyRequest): string[] {
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputArguments(source),
    ...['-map', `0:${picture.streamIndex}`, ...(sound ? ['-map', `0:${sound.streamIndex}`] : [])],
    ...['-sn', '-dn', '-c', 'copy', ...(video.codec === 'hevc' ? ['-tag:v', 'hvc1'] : [])],
    ...PLAIN_FILE,
    `file:${output}`,
  ];
}
