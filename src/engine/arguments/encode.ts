import type { Container } from '../../core/container/names.ts';
import { bringsDown } from '../../core/picture/chain.ts';
import type { EncodedPicture, EncodedSoundStream, MasteredPicture, PictureStream } from '../../core/plan/encodePlan.ts';
import type { PictureRun } from '../encoders/encoder.ts';
import { ENCODERS, MASTER_ENCODERS, pictureTag, SOUND_ENCODERS } from '../encoders/encoders.ts';
import { hardwareArguments, hardwareDevice, hardwarePath, type HardwareKind } from '../encoders/hardware.ts';
import { encodeGraph } from '../filters/picture.ts';
import { soundChain } from '../filters/sound.ts';
import { resultFile } from '../muxers/muxers.ts';
import { labelInputs, type WrittenLabels } from './labels.ts';
import { inputArguments, inputPortion, soundInput, type SoundFile } from './input.ts';
import { colourTags, stampedOutput } from './output.ts';
import { QUIET_WITH_PROGRESS } from './progress.ts';

/**
 * Arguments that encode the sounds alone, each as long as the picture to the sample.
 *
 * @param sounds - At least one, all in one codec.
 *
 * @param output - Absolute path of the file to write.
 *
 * @param labels - Of a file that is a result by itself; null for sounds that wait for their picture.
 */
export function soundArguments(
  sounds: readonly EncodedSoundStream[],
  container: Container,
  source: string,
  output: string,
  labels: WrittenLabels | null,
): string[] {
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputArguments(source),
    ...labelInputs(labels),
    ...['-vn', '-sn', '-dn'],
    ...sounds.flatMap(({ from, chain, do: work }, number) => [
      ...soundChain(
        from.map(({ streamIndex }) => streamIndex),
        chain,
        number,
      ),
      ...SOUND_ENCODERS[work.codec].arguments(work, container).map((one) => ofSound(one, number)),
    ]),
    ...resultFile(container, output, labels, 1),
  ];
}

/** Arguments that listen to one sound as it goes into its encoder. */
export function listenArguments({ from, chain }: EncodedSoundStream, source: string): string[] {
  const streams = from.map(({ streamIndex }) => streamIndex);
  return [
    ...['-hide_banner', '-nostdin', '-nostats', ...inputArguments(source)],
    ...['-vn', '-sn', '-dn', ...soundChain(streams, chain, 0), '-f', 'null', '-'],
  ];
}

/** An option of an encoder, as that of the result's sound of a number. */
function ofSound(option: string, number: number): string {
  if (!/^-[a-z]/.test(option)) return option;
  return option.endsWith(':a') ? `${option}:${number}` : `${option}:a:${number}`;
}

/** Where a picture run reads and writes. */
export interface PictureFiles {
  readonly source: string;
  /** To put beside the picture, or null. */
  readonly sound: SoundFile | null;
  readonly container: Container;
  /** null for a first pass, which writes statistics only. */
  readonly output: string | null;
  /** null for what is no result yet. */
  readonly labels: WrittenLabels | null;
}

/**
 * Arguments of one pass over the picture. The working folder holds the statistics between passes.
 *
 * @param hardware - What makes a picture that is to be made in hardware; null for one that is not.
 */
export function pictureArguments(
  picture: EncodedPicture,
  run: PictureRun,
  files: PictureFiles,
  hardware: HardwareKind | null = null,
): string[] {
  if (!hardware) return encodeArguments(picture, runArguments(picture, run), files);
  const graph = `${encodeGraph(picture)},${hardwarePath(hardware)}`;
  const encoder = hardwareArguments(hardware, picture.do, run);
  return [...hardwareDevice(hardware), ...encodeArguments(picture, encoder, files, graph)];
}

/** One way of several in which the same frames are encoded, and where to. */
export interface PictureWay {
  readonly picture: EncodedPicture;
  /** In one pass. */
  readonly run: PictureRun;
  readonly container: Container;
  readonly output: string;
}

/**
 * Arguments that encode the same frames in several ways, so that they are decoded once.
 *
 * @param ways - At least one, all of the same frames of the source.
 */
export function waysArguments(ways: readonly PictureWay[], source: string): string[] {
  const [first] = ways;
  if (!first) throw new Error('Frames are encoded in no way.');
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputPortion(source, first.picture.from),
    ...ways.flatMap(({ picture, run, container, output }) =>
      outputArguments(
        picture,
        runArguments(picture, run),
        { sound: null, container, output, labels: null },
        straight(picture, encodeGraph(picture)),
      ),
    ),
  ];
}

function runArguments(picture: EncodedPicture, run: PictureRun): string[] {
  const encoder = ENCODERS[picture.do.codec].arguments(picture.do, picture.out.format, run);
  return [...encoder, ...forcedKeyframes(picture, run)];
}

/** Keyframes that lie elsewhere than the encoder would put them. */
function forcedKeyframes(
  { out, do: { keyframeInterval, keyframesAt = [] } }: EncodedPicture,
  run: PictureRun,
): string[] {
  const marks = keyframesAt.filter((frame) => frame > 0 && frame < out.frameCount);
  const terms = [...(run.keyframeAt === undefined ? [] : [run.keyframeAt]), ...marks].map((frame) => `eq(n,${frame})`);
  // Encoders count the distance from any keyframe; those of a fill lie at the same places whatever comes between.
  if (run.fill && marks.length > 0) terms.push(`not(mod(n-${run.keyframeAt ?? 0},${keyframeInterval}))`);
  return terms.length > 0 ? ['-force_key_frames', `expr:${terms.join('+')}`] : [];
}

/** Arguments that encode a picture for editing or the archive. */
export function masterArguments(picture: MasteredPicture, files: PictureFiles): string[] {
  return encodeArguments(picture, MASTER_ENCODERS[picture.do.codec].arguments(picture.do, picture.out.format), files);
}

function encodeArguments(
  picture: PictureStream,
  encoder: readonly string[],
  files: PictureFiles,
  graph = encodeGraph(picture),
): string[] {
  const isBroughtDown = bringsDown(picture.chain);
  const opened = files.sound ? 2 : 1;
  const frames = isBroughtDown ? besideNothing(picture, graph, opened) : straight(picture, graph);
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputPortion(files.source, picture.from),
    ...(files.sound ? soundInput(files.sound) : []),
    ...(isBroughtDown ? NOTHING : []),
    ...(files.output ? labelInputs(files.labels) : []),
    ...outputArguments(picture, encoder, files, frames, isBroughtDown ? opened + 1 : opened),
  ];
}

/** Frames of one stream through a graph. */
function straight({ from }: PictureStream, graph: string): string[] {
  return ['-map', `0:${from.streamIndex}`, '-vf', graph];
}

/**
 * The engine hands on what a stream tells of its light, also where that was brought down since; what comes of two streams tells nothing. The
 * other is a picture that goes nowhere.
 */
const NOTHING = ['-f', 'lavfi', '-i', 'nullsrc=s=16x16:d=0.04'];

function besideNothing({ from }: PictureStream, graph: string, nothing: number): string[] {
  return ['-filter_complex', `[0:${from.streamIndex}]${graph}[picture];[${nothing}:v]nullsink`, '-map', '[picture]'];
}

/**
 * What is made of the inputs, and where it goes.
 *
 * @param frames - Asks for those of the picture.
 *
 * @param inputs - How many there are before those of the labels.
 */
function outputArguments(
  picture: PictureStream,
  encoder: readonly string[],
  files: Omit<PictureFiles, 'source'>,
  frames: readonly string[],
  inputs = 1,
): string[] {
  return [
    ...frames,
    ...(files.sound ? ['-map', '1:a', '-c:a', 'copy'] : ['-an']),
    '-dn',
    ...stampedOutput(picture.out, files.container),
    ...encoder,
    ...pictureTag(files.container, picture.do.codec),
    ...colourTags(picture.out),
    ...(files.output ? resultFile(files.container, files.output, files.labels, inputs) : ['-f', 'null', '-']),
  ];
}
