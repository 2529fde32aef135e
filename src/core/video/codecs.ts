import type { Container } from '../container/names.ts';
import { av1 } from './av1.ts';
import type { VideoDefinition } from './definition.ts';
import { h264 } from './h264.ts';
import { hevc } from './hevc.ts';
import { vp9 } from './vp9.ts';

const definitions = { h264, hevc, vp9, av1 } satisfies Record<string, VideoDefinition>;

/** A picture codec that Linstock writes, by the name recipes give it. */
export type VideoCodec = keyof typeof definitions;

/** What each picture codec is and can do. */
export const VIDEO: Readonly<Record<VideoCodec, VideoDefinition>> = definitions;

/** All of them, in the order they are offered. */
export const VIDEO_CODECS = Object.keys(definitions) as readonly VideoCodec[];

/** Whether a codec by the engine's name is one that Linstock writes. */
export function isVideoCodec(codec: string): codec is VideoCodec {
  return codec in definitions;
}

/** The picture codecs that go into a container. */
export function videoCodecsOf(container: Container): readonly VideoCodec[] {
  return VIDEO_CODECS.filter((codec) => VIDEO[codec].containers.includes(container));
}

/** Kilobits per second a picture may be given: below, no encoder opens. */
export const PICTURE_KBPS_RANGE: readonly [least: number, most: number] = [20, 400_000];

/** Seconds between forced keyframes: seeking on the web stays quick (common practice, no source). */
export const KEYFRAME_SECONDS = 5;
