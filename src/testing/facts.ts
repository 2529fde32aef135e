import type { ProgrammeFacts, VideoFacts } from '../core/programme/facts.ts';
import { constantClock, type FrameClock } from '../core/timing/frameClock.ts';
import { rational } from '../core/timing/rational.ts';

const VIDEO: VideoFacts = {
  index: 0,
  codec: 'h264',
  profile: 'High',
  level: '4.0',
  chroma: '4:2:0',
  alpha: false,
  fieldOrder: null,
  light: null,
  keyframeDistance: { least: 250, mean: 250, most: 250 },
  reordering: 2,
  pixelFormat: 'yuv420p',
  bitDepth: 8,
  pixelAspect: rational(1, 1),
  colour: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', range: 'limited' },
  interlaced: false,
  rotation: 0,
  startSeconds: 0,
  claimedRate: rational(25, 1),
  constantRate: true,
  seeksExactly: true,
  seekLeadSeconds: 0,
  bitsPerSecond: 20_000_000,
  keyframes: 6,
};

/** Facts of a plain minute of HD, changed where a test needs it otherwise. */
export function factsOf(changes: Partial<ProgrammeFacts> = {}, video: Partial<VideoFacts> = {}): ProgrammeFacts {
  return {
    container: 'MP4 or QuickTime',
    bytes: 150_000_000,
    durationSeconds: 60,
    frameCount: 1500,
    frameRate: rational(25, 1),
    width: 1920,
    height: 1080,
    video: { ...VIDEO, ...video },
    audio: [
      {
        index: 1,
        codec: 'pcm_s16le',
        channels: 2,
        layout: 'stereo',
        bitDepth: 16,
        language: null,
        title: null,
        sampleRate: 48000,
        startSeconds: 0,
        durationSeconds: 60,
        bitsPerSecond: 1_536_000,
      },
    ],
    captions: [],
    sidecars: [],
    chapters: [],
    startTimecode: null,
    metadata: {},
    ...changes,
  };
}

/** Facts of a plain minute of sound alone. */
export function soundFactsOf(changes: Partial<ProgrammeFacts> = {}): ProgrammeFacts {
  return factsOf({ video: null, width: 0, height: 0, frameCount: 0, frameRate: rational(0, 1), ...changes });
}

/** The clock of facts whose rate is constant. */
export function clockOf({ frameRate, frameCount }: ProgrammeFacts): FrameClock {
  return constantClock(frameRate, frameCount);
}
