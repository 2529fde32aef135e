import type { Container } from '../container/names.ts';
import { av1 } from './av1.ts';
import type { Flavour, MasterDefinition, RatedDefinition, VideoDefinition } from './definition.ts';
import { ffv1 } from './ffv1.ts';
import { h264 } from './h264.ts';
import { hevc } from './hevc.ts';
import { prores } from './prores.ts';
import { vp9 } from './vp9.ts';

const rated = { h264, hevc, vp9, av1 } satisfies Record<string, RatedDefinition>;
const masters = { prores, ffv1 } satisfies Record<string, MasterDefinition>;

/** A picture codec that is given a rate or a quality, by the name recipes give it. */
export type RatedCodec = keyof typeof rated;

/** A picture codec for masters. */
export type MasterCodec = keyof typeof masters;

/** A picture codec that Linstock writes. */
export type VideoCodec = RatedCodec | MasterCodec;

/** What each picture codec is and can do. */
export const VIDEO: Readonly<Record<VideoCodec, VideoDefinition>> = { ...rated, ...masters };

/** Those with a rate. */
export const RATED: Readonly<Record<RatedCodec, RatedDefinition>> = rated;

/** Those for masters. */
export const MASTERS: Readonly<Record<MasterCodec, MasterDefinition>> = masters;

export const RATED_CODECS = Object.keys(rated) as readonly RatedCodec[];
export const MASTER_CODECS = Object.keys(masters) as readonly MasterCodec[];

/** All of them, in the order they are offered. */
export const VIDEO_CODECS: readonly VideoCodec[] = [...RATED_CODECS, ...MASTER_CODECS];

/** A flavour by its key; undefined where the codec has none of that name. */
export function flavourOf(codec: MasterCodec, key: string): Flavour | undefined {
  return MASTERS[codec].flavours.find((one) => one.key === key);
}

/** Whether a codec by the engine's name is one that Linstock writes. */
export function isVideoCodec(codec: string): codec is VideoCodec {
  return Object.hasOwn(VIDEO, codec);
}

/** Whether a codec is given a rate. */
export function isRated(codec: string): codec is RatedCodec {
  return Object.hasOwn(rated, codec);
}

/** The picture codecs that go into a container. */
export function videoCodecsOf(container: Container): readonly VideoCodec[] {
  return VIDEO_CODECS.filter((codec) => VIDEO[codec].containers.includes(container));
}

/** Kilobits per second a picture may be given: below, no encoder opens. */
export const PICTURE_KBPS_RANGE: readonly [least: number, most: number] = [20, 400_000];

/** Seconds between forced keyframes: seeking on the web stays quick (common practice, no source). */
export const KEYFRAME_SECONDS = 5;
