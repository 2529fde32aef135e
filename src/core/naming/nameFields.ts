import { pictureOf, soundsOf, type EncodePlan } from '../plan/encodePlan.ts';
import { SOUND } from '../sound/codecs.ts';
import { toNumber } from '../timing/rational.ts';
import { VIDEO } from '../video/codecs.ts';
import type { NameFields } from './nameTemplate.ts';

/** What a rendition is called after, beside what it is. */
export interface NamedAfter {
  /** With or without its extension. */
  readonly programmeName: string;
  /** null for the whole programme. */
  readonly portionName: string | null;
  readonly recipeName: string;
  /** The day it is ordered, `2026-10-03` (ISO 8601). */
  readonly orderedOn: string;
}

/** What a name may tell of a rendition that is planned. */
export function nameFieldsOf(after: NamedAfter, plan: EncodePlan): NameFields {
  const picture = pictureOf(plan);
  const [sound] = soundsOf(plan);
  const size = picture?.out.size;
  return {
    programme: after.programmeName,
    portion: after.portionName ?? '',
    recipe: after.recipeName,
    size: size ? `${size.width}x${size.height}` : '',
    width: size ? String(size.width) : '',
    height: size ? String(size.height) : '',
    fps: picture ? String(Number(toNumber(picture.out.frameRate).toFixed(2))) : '',
    codec: picture ? shortName(VIDEO[picture.do.codec].name) : '',
    sound: sound ? shortName(SOUND[sound.do.codec].name) : '',
    date: after.orderedOn,
  };
}

function shortName(name: string): string {
  return name.replace('.', '').toLowerCase();
}
