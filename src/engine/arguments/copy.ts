import type { Container } from '../../core/container/names.ts';
import type { PictureStream, SoundStream } from '../../core/plan/encodePlan.ts';
import { pictureTag } from '../encoders/encoders.ts';
import { resultFile } from '../muxers/muxers.ts';
import { inputArguments } from './input.ts';
import { QUIET_WITH_PROGRESS } from './progress.ts';

/** What is copied out of a master as it is. */
export interface CopyRequest {
  readonly picture: PictureStream;
  readonly sounds: readonly SoundStream[];
  readonly container: Container;
  readonly source: string;
  readonly output: string;
}

/** Arguments that put a master's own picture and sound into a file for the web, untouched. */
export function copyArguments({ picture, sounds, container, source, output }: CopyRequest): string[] {
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputArguments(source),
    ...[picture, ...sounds].flatMap(({ from }) => ['-map', `0:${from.streamIndex}`]),
    ...['-sn', '-dn', '-c', 'copy', ...pictureTag(container, picture.do.codec)],
    ...resultFile(container, output),
  ];
}
