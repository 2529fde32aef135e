/** Every codec and container Linstock writes; types and tables derive from these lists. */
export const VIDEO_CODECS = ['h264', 'hevc'] as const;
export type VideoCodec = (typeof VIDEO_CODECS)[number];

export const AUDIO_CODECS = ['aac'] as const;
export type AudioCodec = (typeof AUDIO_CODECS)[number];

export const CONTAINERS = ['mp4'] as const;
export type Container = (typeof CONTAINERS)[number];

export const EFFORTS = ['fast', 'balanced', 'thorough'] as const;
export type Effort = (typeof EFFORTS)[number];

export const CHANNEL_CHOICES = ['mono', 'stereo'] as const;
export type Channels = (typeof CHANNEL_CHOICES)[number];

export const SAMPLE_RATES = [44100, 48000] as const;

/** The trade's names (ITU-T H.264, ITU-T H.265, ISO/IEC 14496-3). */
export const CODEC_NAMES: Readonly<Record<VideoCodec | AudioCodec, string>> = {
  h264: 'H.264',
  hevc: 'HEVC',
  aac: 'AAC',
};

/** Constant quality, lower is better: the scale of each encoder. */
export const QUALITY_RANGE: Readonly<Record<VideoCodec, readonly [best: number, worst: number]>> = {
  h264: [0, 51],
  hevc: [0, 51],
};

/** Where people usually start (common practice, no source: 22 to 24). */
export const USUAL_QUALITY: Readonly<Record<VideoCodec, number>> = { h264: 23, hevc: 24 };

/**
 * The quantiser below which the eye gains nothing and files only grow (common practice, no source: "above three
 * quarters of a quality scale files grow much and pictures hardly improve"). Size targets stop spending here.
 */
export const FINEST_SENSIBLE_QUANTISER: Readonly<Record<VideoCodec, number>> = { h264: 12, hevc: 12 };

/** The coarsest quantiser of 8-bit video (ITU-T H.264 and H.265: QP 51). */
export const COARSEST_QUANTISER = 51;

export const CHANNEL_COUNT: Readonly<Record<Channels, number>> = { mono: 1, stereo: 2 };

/** AAC-LC codes 1,024 samples a frame (ISO/IEC 14496-3). */
export const AAC_FRAME_SAMPLES = 1024;

/** Kilobits per second a picture may be given: below, no encoder opens. */
export const PICTURE_KBPS_RANGE: readonly [least: number, most: number] = [20, 400_000];

/** Kilobits per second that AAC-LC takes: above 6 bits a sample the encoder clips the rate. */
export const AAC_KBPS_RANGE: Readonly<Record<Channels, readonly [least: number, most: number]>> = {
  mono: [8, 256],
  stereo: [16, 512],
};

/** Seconds between forced keyframes: seeking on the web stays quick (common practice, no source). */
export const KEYFRAME_SECONDS = 5;
