import type { HeardSound } from '../../core/programme/channelTracks.ts';
import { LIGHT_COPY, type StandInPiece } from '../../core/programme/standIn.ts';
import type { PicturePath } from '../../core/plan/encodePlan.ts';
import { encodeGraph } from '../filters/picture.ts';
import { heardSound } from '../filters/sound.ts';
import { inputFrom, inputPortion } from './input.ts';
import { stampedOutput } from './output.ts';
import { QUIETLY } from './progress.ts';

/** Everything needed to make one piece of a stand-in. */
export interface StandInRequest {
  readonly source: string;
  readonly piece: StandInPiece;
  /** The piece's frames, at its light size. */
  readonly picture: PicturePath | null;
  readonly sound: HeardSound | null;
}

/**
 * Arguments that write one piece as a fragmented MP4 to standard output: H.264 without reordering, and FLAC, which
 * unlike AAC begins exactly where it should.
 */
export function standInArguments({ source, piece, picture, sound }: StandInRequest): string[] {
  const graphs: string[] = [];
  if (picture) graphs.push(`[0:${picture.from.streamIndex}]${encodeGraph(picture)}[picture]`);
  if (sound) {
    const length = piece.seconds.toFixed(6);
    const streams = sound.streamIndexes.map((stream) => `${picture ? 1 : 0}:${stream}`);
    graphs.push(
      `${heardSound(streams, ['aresample=48000:async=1:first_pts=0', 'apad'])},atrim=end=${length},asetpts=N/SR/TB[sound]`,
    );
  }
  return [
    ...QUIETLY,
    ...(picture ? inputPortion(source, picture.from) : []),
    ...(sound
      ? ['-t', (piece.seconds + 1).toFixed(6), ...inputFrom(source, sound.startSeconds + piece.startSeconds)]
      : []),
    ...['-filter_complex', graphs.join(';')],
    ...(picture
      ? [
          ...['-map', '[picture]', ...stampedOutput(picture.out, LIGHT_COPY.format)],
          ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '23', '-bf', '0', '-g', '48'],
        ]
      : []),
    ...(sound ? ['-map', '[sound]', '-c:a', LIGHT_COPY.sound, '-strict', '-2', '-ac', '2', '-sample_fmt', 's16'] : []),
    ...['-movflags', 'frag_keyframe+empty_moov+default_base_moof', '-f', LIGHT_COPY.format, 'pipe:1'],
  ];
}
