import { array, boolean, number, string, type Schema } from 'yup';
import { CONTAINERS } from '../core/container/names.ts';
import type { Rational } from '../core/timing/rational.ts';
import { SOUND_CODECS } from '../core/sound/codecs.ts';
import { VIDEO_CODECS } from '../core/video/codecs.ts';
import { fraction } from './fraction.ts';
import { fault, strictObject } from './strictObject.ts';

const above = (least: number, unit: string) =>
  number()
    .min(least, fault(`at least ${least} ${unit}`))
    .max(Number.MAX_SAFE_INTEGER, fault('a number that can be'))
    .nullable()
    .default(null);

const some = <Name extends string>(list: readonly Name[]) =>
  array(
    string<Name>()
      .required()
      .oneOf(list, fault(`some of ${list.join(', ')}`)),
  )
    .min(1, fault('at least one, or null for any'))
    .nullable()
    .default(null);

const rational = fraction.nullable().default(null) as unknown as Schema<Rational | null>;

/** What a receiver asks for, `linstock.brief/1`; unknown keys are refused by name. */
export const briefSchema = strictObject({
  format: string().oneOf(['linstock.brief/1'], fault('the format “linstock.brief/1”')).default('linstock.brief/1'),
  name: string().max(200, fault('at most 200 characters')).default('Untitled'),
  maxBytes: above(1000, 'bytes'),
  unit: string()
    .oneOf(['MB', 'MiB'] as const, fault('MB or MiB'))
    .default('MB'),
  maxTotalKbps: above(10, 'kb/s'),
  maxPictureKbps: above(10, 'kb/s'),
  picture: boolean().nullable().default(null),
  maxWidth: above(16, 'pixels'),
  maxHeight: above(16, 'pixels'),
  shape: rational,
  maxFrameRate: rational,
  containers: some(CONTAINERS),
  codecs: some(VIDEO_CODECS),
  plainPixels: boolean().default(false),
  maxLevel: string()
    .matches(/^\d(\.\d)?$/, fault('a level such as 4.1'))
    .nullable()
    .default(null),
  maxKeyframeSeconds: above(0.04, 's'),
  soundCodecs: some(SOUND_CODECS),
  maxSoundKbps: above(6, 'kb/s'),
  maxChannels: above(1, 'channel'),
  loudness: strictObject({
    lufs: number()
      .required(fault('a loudness in LUFS'))
      .min(-60, fault('at least −60 LUFS'))
      .max(0, fault('at most 0 LUFS')),
    within: number().min(0.1, fault('at least 0.1 LU')).max(20, fault('at most 20 LU')).default(1),
    maxTruePeakDbtp: number()
      .min(-40, fault('at least −40 dBTP'))
      .max(6, fault('at most 6 dBTP'))
      .nullable()
      .default(null),
  })
    .nullable()
    .default(null),
  minSeconds: above(0, 's'),
  maxSeconds: above(0.1, 's'),
  plainName: boolean().default(false),
}).required(fault('a brief'));
