import type { Container } from '../../core/container/names.ts';
import type { PictureStream, SoundStream } from '../../core/plan/encodePlan.ts';
import { pictureTag } from '../encoders/encoders.ts';
import { resultFile } from '../muxers/muxers.ts';
import { inputArguments } from './input.ts';
import { QUIET_WITH_PROGRESS } from './progress.ts';

/** What is copied out of a master as it is. */
export interface CopyRequest {
  /** null copies sound alone. */
  readonly picture: PictureStream | null;
  /** The master's own. */
  readonly sounds: readonly SoundStream[];
  /** Sound that was encoded and is put beside the picture, which begins at so many seconds in the master; or null. */
  readonly encoded: { readonly file: string; readonly beginsAtSeconds: number } | null;
  readonly container: Container;
  readonly source: string;
  readonly output: string;
}

/** Arguments that put a master's own streams into a file of another kind, untouched. */
export function copyArguments({ picture, sounds, encoded, container, source, output }: CopyRequest): string[] {
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputArguments(source),
    ...(encoded ? ['-itsoffset', encoded.beginsAtSeconds.toFixed(6), ...inputArguments(encoded.file)] : []),
    ...[...(picture ? [picture] : []), ...sounds].flatMap(({ from }) => ['-map', `0:${from.streamIndex}`]),
    ...(encoded ? ['-map', '1:a:0'] : []),
    ...['-sn', '-dn', '-c', 'copy', ...(picture ? pictureTag(container, picture.do.codec) : [])],
    ...resultFile(container, output),
  ];
}

/**
 * Arguments that take a master's sound out, untouched, to wait for its picture.
 *
 * @param pictureSeconds - When the picture begins in the master: sound is counted from there.
 */
export function soundCopyArguments(
  sound: SoundStream,
  pictureSeconds: number,
  container: Container,
  source: string,
  output: string,
): string[] {
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputArguments(source),
    ...['-map', `0:${sound.from.streamIndex}`, '-c', 'copy'],
    ...(pictureSeconds > 0 ? ['-output_ts_offset', (-pictureSeconds).toFixed(6)] : []),
    ...resultFile(container, output),
  ];
}
