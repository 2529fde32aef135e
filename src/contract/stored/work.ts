import { boolean, number, object, string } from 'yup';
import type { PlannedWork } from '../../core/forecast/encodeWork.ts';
import { VIDEO_CODECS } from '../../core/video/codecs.ts';
import { EFFORTS } from '../../core/video/definition.ts';
import { parseWith } from '../strictObject.ts';

const kindSchema = object({
  codec: string().oneOf(VIDEO_CODECS).required(),
  effort: string().oneOf(EFFORTS).nullable().defined(),
  way: string().oneOf(['once', 'twice', 'filling']).required(),
});

const workSchema = object({
  kind: kindSchema.nullable().defined().default(undefined),
  own: number().required(),
  masters: number().required(),
  work: number().required(),
  isForeseen: boolean().required(),
  restBytes: number().required(),
}).required();

/** What a rendition's encode comes to, as it lies in the database; null for what cannot be read, which teaches nothing. */
export function readWork(stored: unknown): PlannedWork | null {
  const parsed = parseWith(workSchema, stored);
  return parsed.ok ? parsed.value : null;
}
