import { CONTAINER } from '../container/containers.ts';
import { SOUND } from '../sound/codecs.ts';
import { RATED } from '../video/codecs.ts';
import { leastLevel } from '../video/levels.ts';
import { isEncoded, pictureOf, soundsOf, type EncodedPicture, type EncodePlan } from './encodePlan.ts';
import { leveledStream } from './planEncode.ts';

/**
 * The type a browser is asked about before a file is made (RFC 6381).
 *
 * @returns null where there is nothing to ask: no browser opens such files, or the streams are the master's own.
 */
export function webTypeOfPlan(plan: EncodePlan): string | null {
  const { withPicture, soundAlone, playsInBrowsers } = CONTAINER[plan.container];
  const picture = pictureOf(plan);
  if (!playsInBrowsers || (picture && !isEncoded(picture))) return null;
  const strings = [
    ...(picture ? [pictureString(picture)] : []),
    ...soundsOf(plan).map(({ do: { codec } }) => SOUND[codec].codecString),
  ];
  if (strings.includes(null)) return null;
  const kind = picture ? withPicture : soundAlone;
  return kind && `${kind.mime}; codecs="${Array.from(new Set(strings)).join(', ')}"`;
}

function pictureString(picture: EncodedPicture): string | null {
  const { codec, fine } = picture.do;
  const level = fine.level ?? leastLevel(RATED[codec].levels, leveledStream(picture));
  return RATED[codec].plannedString(level, picture.out.format, fine.profile);
}
