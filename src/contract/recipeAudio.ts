import { array, boolean, lazy, mixed, number, string, type Schema } from 'yup';
import { SOUND, SOUND_CODECS } from '../core/sound/codecs.ts';
import {
  CHANNEL_CHOICES,
  kbpsRange,
  LAYOUT_CHANNELS,
  SAMPLE_RATES,
  SOUND_DEPTHS,
  type Layout,
  type SoundDepth,
} from '../core/sound/definition.ts';
import { LUFS_RANGE, TRUE_PEAK_RANGE, USUAL_TRUE_PEAK } from '../core/sound/loudness.ts';
import { GAIN_RANGE, MOST_DELAY_MS, MOST_FADE_SECONDS } from '../core/sound/treatment.ts';
import { fault, strictObject } from './strictObject.ts';

const LAYOUTS = Object.keys(LAYOUT_CHANNELS) as readonly Layout[];

const soundLimits = SOUND_CODECS.flatMap((codec) => {
  const { rate } = SOUND[codec];
  return rate.kind === 'asked' ? LAYOUTS.flatMap((one) => kbpsRange(rate, one)) : [];
});
const LEAST_SOUND_KBPS = Math.min(...soundLimits);
const MOST_SOUND_KBPS = Math.max(...soundLimits);

const soundKbps = number()
  .integer(fault('a whole number of kb/s'))
  .min(LEAST_SOUND_KBPS, fault(`at least ${LEAST_SOUND_KBPS} kb/s`))
  .max(MOST_SOUND_KBPS, fault(`at most ${MOST_SOUND_KBPS} kb/s`));

const soundDepth = number<SoundDepth>().oneOf(SOUND_DEPTHS, fault('16 or 24 bits'));

/** How loud sound is to be. */
const loudnessSchema = strictObject({
  lufs: number()
    .required(fault('a loudness in LUFS'))
    .min(LUFS_RANGE[0], fault(`at least ${LUFS_RANGE[0]} LUFS`))
    .max(LUFS_RANGE[1], fault(`at most ${LUFS_RANGE[1]} LUFS`)),
  truePeakDbtp: number()
    .min(TRUE_PEAK_RANGE[0], fault(`at least ${TRUE_PEAK_RANGE[0]} dBTP`))
    .max(TRUE_PEAK_RANGE[1], fault(`at most ${TRUE_PEAK_RANGE[1]} dBTP`))
    .default(USUAL_TRUE_PEAK),
})
  .nullable()
  .default(null);

/** So much of a unit, from the least to the most; none where it is not said. */
const within = ([least, most]: readonly [number, number], unit: string) =>
  number()
    .min(least, fault(`at least ${least} ${unit}`))
    .max(most, fault(`at most ${most} ${unit}`))
    .default(0);

const fadeSeconds = within([0, MOST_FADE_SECONDS], 's');

/** What has no place with a codec is left out, or null. */
const nothing = <Value>(why: string) =>
  mixed<Value & never>()
    .nullable()
    .test('nothing', fault(why), (value) => value == null)
    .default(null);

/** Far more than any container of programmes has. */
const MOST_TRACKS = 32;

/** Which of the master's tracks, counted from 0. */
const trackList = array(number().required().integer(fault('a whole number')).min(0, fault('0 for the first')))
  .min(1, fault('at least one track, such as [0]'))
  .max(MOST_TRACKS, fault(`at most ${MOST_TRACKS} tracks`))
  .test('once', fault('each track once'), (tracks) => new Set(tracks).size === (tracks?.length ?? 0))
  .default([0]) as unknown as Schema<readonly number[]>;

const copiedAudioSchema = strictObject({ codec: string().oneOf(['copy']).required(), tracks: trackList }).required();

const encodedAudioSchema = (stored: unknown) => {
  const codec = SOUND_CODECS.find((one) => one === stored);
  const isWhole = codec !== undefined && SOUND[codec].rate.kind === 'whole';
  return strictObject({
    codec: string()
      .required(fault(`one of ${SOUND_CODECS.join(', ')}, copy`))
      .oneOf(SOUND_CODECS, fault(`one of ${SOUND_CODECS.join(', ')}, copy`)),
    kbps: (isWhole ? nothing('no rate: this codec keeps every sample') : soundKbps.default(128)) as unknown as Schema<
      number | null
    >,
    channels: string()
      .oneOf(CHANNEL_CHOICES, fault(`one of ${CHANNEL_CHOICES.join(', ')}`))
      .default('stereo'),
    sampleRate: number()
      .oneOf(SAMPLE_RATES, fault(`one of ${SAMPLE_RATES.join(', ')} Hz`))
      .default(48000),
    loudness: loudnessSchema,
    gainDb: within(GAIN_RANGE, 'dB').when('loudness', ([level], schema) =>
      level ? schema.oneOf([0], fault('0 where a loudness is asked for: that says how loud it is')) : schema,
    ),
    fadeInSeconds: fadeSeconds,
    fadeOutSeconds: fadeSeconds,
    delayMs: within([-MOST_DELAY_MS, MOST_DELAY_MS], 'ms'),
    tracks: trackList,
    mixed: boolean().default(false),
    joined: boolean()
      .default(false)
      .when('mixed', ([isMixed], schema) => (isMixed ? schema.oneOf([false], fault('either this or mixed')) : schema)),
    bitDepth: (isWhole
      ? soundDepth.default(16)
      : nothing('no depth: this codec has a rate')) as unknown as Schema<SoundDepth | null>,
  })
    .nullable()
    .defined(fault('settings for the sound, or null for none'));
};

/** The sound of a recipe; null for none. */
export const audioSchema = lazy((value: { codec?: unknown } | null) =>
  value?.codec === 'copy' ? copiedAudioSchema : encodedAudioSchema(value?.codec),
);
