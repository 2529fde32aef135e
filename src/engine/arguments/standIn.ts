import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { Colour } from '../../core/programme/colour.ts';
import type { StandInPiece } from '../../core/programme/standIn.ts';
import { framesToSeconds, type Rational } from '../../core/timing/rational.ts';
import { inputFrom } from './input.ts';
import { exactTiming, scaleFilter, seekSeconds, tagFilter } from './picture.ts';

/** Everything needed to make one piece of a stand-in. */
export interface StandInRequest {
  readonly source: string;
  readonly piece: StandInPiece;
  readonly picture: {
    readonly streamIndex: number;
    readonly startSeconds: number;
    readonly frameRate: Rational;
    readonly seeksExactly: boolean;
    /** Of the piece, in square pixels. */
    readonly size: FrameSize;
    readonly colour: Colour;
    readonly range: 'limited' | 'full';
  } | null;
  readonly sound: { readonly streamIndex: number; readonly startSeconds: number } | null;
}

/** Frames read beyond a piece, so that reordering at its end loses none. */
const SPARE_FRAMES = 25;

/**
 * Arguments that write one piece as a fragmented MP4 to standard output: H.264 without reordering, and FLAC, which
 * unlike AAC begins exactly where it should.
 */
export function standInArguments(request: StandInRequest): string[] {
  const { source, piece, picture, sound } = request;
  const seeks = picture?.seeksExactly === true;
  const seek = picture && seeks ? seekSeconds(piece.inFrame, picture.frameRate, picture.startSeconds) : 0;
  const first = seeks ? 0 : piece.inFrame;
  const graphs: string[] = [];
  if (picture) {
    const { matrix } = picture.colour;
    const chain = [
      `trim=start_frame=${first}:end_frame=${first + piece.frameCount}`,
      // Only frames marked as fields are touched.
      'bwdif=mode=send_frame:deint=interlaced',
      scaleFilter(picture.size, { matrix, range: picture.range }, { matrix, range: 'limited' }),
      'format=yuv420p',
      'setsar=1',
      tagFilter(picture.colour),
      exactTiming(picture.frameRate),
    ];
    graphs.push(`[0:${picture.streamIndex}]${chain.join(',')}[picture]`);
  }
  if (sound) {
    const length = piece.seconds.toFixed(6);
    graphs.push(
      `[${picture ? 1 : 0}:${sound.streamIndex}]aresample=48000:async=1:first_pts=0,apad,atrim=end=${length},asetpts=N/SR/TB[sound]`,
    );
  }
  const readSeconds = picture ? framesToSeconds(piece.frameCount + SPARE_FRAMES, picture.frameRate) : piece.seconds;
  return [
    ...['-hide_banner', '-nostdin', '-loglevel', 'error'],
    ...(picture ? [...(seeks ? ['-t', readSeconds.toFixed(6)] : []), ...inputFrom(source, seek)] : []),
    ...(sound
      ? ['-t', (piece.seconds + 1).toFixed(6), ...inputFrom(source, sound.startSeconds + piece.startSeconds)]
      : []),
    ...['-filter_complex', graphs.join(';')],
    ...(picture
      ? [
          ...['-map', '[picture]', '-fps_mode', 'passthrough'],
          ...['-enc_time_base', `${picture.frameRate.den}:${picture.frameRate.num}`],
          ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '23', '-bf', '0', '-g', '48'],
        ]
      : []),
    ...(sound ? ['-map', '[sound]', '-c:a', 'flac', '-strict', '-2', '-ac', '2', '-sample_fmt', 's16'] : []),
    ...['-movflags', 'frag_keyframe+empty_moov+default_base_moof', '-f', 'mp4', 'pipe:1'],
  ];
}
