import type { AnalysisStretch } from '../../core/analysis/planAnalysis.ts';
import type { HeardSound } from '../../core/programme/channelTracks.ts';
import type { Colour } from '../../core/programme/colour.ts';
import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { Rational } from '../../core/timing/rational.ts';
import { decoderOf, inputFrom } from './input.ts';
import { skipFilters } from '../filters/picture.ts';
import { heardSound } from '../filters/sound.ts';
import { renderScale } from '../filters/scale.ts';
import { exactTiming } from '../filters/stamp.ts';

/** What one stretch is analysed with. */
export interface AnalysisRequest {
  readonly source: string;
  readonly stretch: AnalysisStretch;
  readonly picture: {
    readonly streamIndex: number;
    readonly frameRate: Rational;
    readonly size: FrameSize;
    readonly colour: Colour;
    readonly range: 'limited' | 'full';
    /** The engine's name of the codec, where the picture has transparency. */
    readonly transparentBy: string | null;
    /** Frames from one small picture to the next; they are written to the working folder as `AnalysisPictures` says. */
    readonly pictureInterval: number;
  } | null;
  readonly sound: HeardSound | null;
}

/** Small pictures in the working folder, numbered from 1. */
export const ANALYSIS_PICTURES = 'picture-%05d.jpg';

/** Frames looked at in a row to tell the fields apart, and how many of them have too few before them. */
export const FIELD_BURST = 12;
export const FIELD_BURST_LEAD = 2;

/** Widths of the picture for the fast encode, for the comparison of frames, and of the small pictures. */
const GAUGE_WIDTH = 480;
const GLANCE_WIDTH = 160;
const PICTURE_WIDTH = 160;

/** The default of 1.04 takes noise on a still picture for fields; real fields were told as surely with this. */
const FIELD_RATIO = 1.2;

/** Luma of 8 bits up to which a pixel is black (16 in video range, and some noise). */
const BLACK_LUMA = 32;

/**
 * Arguments that measure one stretch in one decode. Measurements come as log lines on standard error in the order of
 * the frames, so that a fault of the decoder stands beside the frame it spoilt; the packets of the fast encode come on
 * standard output.
 */
export function analyseArguments(request: AnalysisRequest): string[] {
  const { source, stretch, picture, sound } = request;
  const graphs = [
    ...(picture ? pictureGraph(picture, stretch) : []),
    ...(sound ? [soundGraph(sound, stretch, picture ? 1 : 0)] : []),
  ];
  const soundStart = (sound?.startSeconds ?? 0) + stretch.startSeconds - stretch.leadSeconds;
  return [
    ...['-hide_banner', '-nostdin', '-y', '-nostats', '-loglevel', 'repeat+info'],
    ...(picture ? [...decoderOf(picture.transparentBy), ...inputFrom(source, stretch.opening.atSeconds)] : []),
    ...(sound ? inputFrom(source, soundStart) : []),
    ...['-filter_complex', graphs.join(';')],
    ...(picture ? pictureOutputs(picture.frameRate) : []),
    ...(sound ? ['-map', '[heard]', '-f', 'null', '-'] : []),
  ];
}

function pictureGraph(picture: NonNullable<AnalysisRequest['picture']>, stretch: AnalysisStretch): string[] {
  const rate = picture.frameRate.num / picture.frameRate.den;
  const second = Math.max(1, Math.round(rate));
  const { matrix } = picture.colour;
  const { leadFrames } = stretch;
  // A short clip is looked at more often, or too little of it would be seen to tell.
  const burstEvery = Math.max(FIELD_BURST, Math.min(second * 5, Math.floor(stretch.frameCount / 8)));
  const afterLead = leadFrames > 0 ? `trim=start_frame=${leadFrames},setpts=N,` : '';
  // A JPEG has BT.601 colour in full range (JFIF); the glance before it made the range limited.
  const toJpeg = renderScale({
    size: { width: PICTURE_WIDTH, height: evenHeight(picture.size, PICTURE_WIDTH) },
    from: { matrix, range: 'limited' },
    to: { matrix: 'bt470bg', range: 'full' },
  });
  const frames = `trim=end_frame=${leadFrames + stretch.frameCount}`;
  const opened = [...skipFilters(stretch.opening), frames, exactTiming(picture.frameRate)];
  const hasAlpha = picture.transparentBy !== null;
  return [
    `[0:${picture.streamIndex}]${opened.join(',')},split=${hasAlpha ? 4 : 3}[all][close][rows]${hasAlpha ? '[veil]' : ''}`,
    ...(hasAlpha ? [`[veil]${OPAQUE}`] : []),
    `[all]scale=w=${GAUGE_WIDTH}:h=${evenHeight(picture.size, GAUGE_WIDTH)}:flags=fast_bilinear:in_range=${picture.range === 'full' ? 'pc' : 'tv'}:out_range=tv,format=yuv420p,split=3[gauge][glance][small]`,
    `[gauge]${afterLead}null[gauged]`,
    `[glance]scale=w=${GLANCE_WIDTH}:h=${evenHeight(picture.size, GLANCE_WIDTH)}:flags=fast_bilinear,blackframe=amount=0:threshold=${BLACK_LUMA},scdet=t=100,metadata@frame=print,nullsink`,
    `[small]${afterLead}select=not(mod(n\\,${picture.pictureInterval})),${toJpeg},format=yuvj420p[pictures]`,
    `[close]select=lt(mod(n\\,${burstEvery})\\,${FIELD_BURST}),crop=floor(iw/3):ih:floor(iw/3):0,idet=intl_thres=${FIELD_RATIO},metadata@field=print:key=lavfi.idet.multiple.current_frame,nullsink`,
    `[rows]${afterLead}select=not(mod(n\\,${edgeInterval(stretch, picture.frameRate)})),format=yuv420p,${edges(19)},metadata@dark=print,${edges(24)},metadata@dim=print,nullsink`,
  ];
}

/** Where nothing is transparent the picture of what is missing is black throughout, but for a step or two that coding leaves. */
const OPAQUE =
  'alphaextract,format=gray,negate,blackframe=amount=0:threshold=3,metadata@clear=print:key=lavfi.blackframe.pblack,nullsink';

/** Frames from one look at the edges to the next: a second, and less in short clips, where a second would be too few. */
export function edgeInterval(stretch: AnalysisStretch, rate: Rational): number {
  return Math.max(1, Math.min(Math.round(rate.num / rate.den), Math.floor(stretch.frameCount / 8)));
}

/**
 * Finds where a frame shows something. Two limits stand for a sharp edge: a night sky that grows lighter downwards gives
 * another row with each, a bar gives the same (the first dark sky tried was taken for a bar of 120 rows with one limit).
 */
function edges(limit: number): string {
  return `cropdetect=limit=${limit}:round=2:reset=1:skip=0`;
}

function pictureOutputs(rate: Rational): string[] {
  const keyframes = Math.max(1, Math.round(rate.num / rate.den));
  return [
    ...['-map', '[gauged]', '-fps_mode', 'passthrough', '-enc_time_base', `${rate.den}:${rate.num}`],
    ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '25', '-bf', '0', '-g', String(keyframes)],
    ...['-x264-params', `rc-lookahead=0:mbtree=0:scenecut=0:keyint=${keyframes}:min-keyint=${keyframes}`],
    ...['-f', 'framecrc', 'pipe:1'],
    ...[
      '-map',
      '[pictures]',
      '-fps_mode',
      'passthrough',
      '-c:v',
      'mjpeg',
      '-q:v',
      '5',
      '-f',
      'image2',
      ANALYSIS_PICTURES,
    ],
  ];
}

function soundGraph({ streamIndexes, channels }: HeardSound, stretch: AnalysisStretch, input: number): string {
  const end = (stretch.leadSeconds + stretch.seconds).toFixed(6);
  const pair =
    channels >= 2
      ? ',pan=stereo|c0=0.5*c0+0.5*c1|c1=0.5*c0-0.5*c1,astats=metadata=1:reset=1:measure_perchannel=RMS_level:measure_overall=none'
      : '';
  return [
    heardSound(
      streamIndexes.map((stream) => `${input}:${stream}`),
      ['aresample=async=1:first_pts=0'],
    ),
    `atrim=end=${end}`,
    'ebur128=metadata=1:peak=true:framelog=verbose',
    `astats=metadata=1:reset=1:measure_perchannel=Peak_level:measure_overall=none${pair}`,
    'ametadata@sound=print[heard]',
  ].join(',');
}

/** Height at a width, kept even for chroma. */
function evenHeight(size: FrameSize, width: number): number {
  return Math.max(2, Math.round((size.height * width) / size.width / 2) * 2);
}
