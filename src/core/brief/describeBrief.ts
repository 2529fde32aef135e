import { CONTAINER } from '../container/containers.ts';
import { SOUND } from '../sound/codecs.ts';
import { joinWords, writeSize } from '../text.ts';
import { nameFrameRate } from '../timing/frameRate.ts';
import { VIDEO } from '../video/codecs.ts';
import type { Brief } from './brief.ts';

/** What a receiver asks for, as one sentence. */
export function describeBrief(brief: Brief): string {
  const { maxBytes, unit, maxTotalKbps, maxPictureKbps, picture, maxWidth, maxHeight, shape, maxFrameRate } = brief;
  const rate = (kbps: number) => `${kbps.toLocaleString('en')} kb/s`;
  const parts = [
    picture === false && 'sound alone',
    maxBytes !== null && `at most ${unit === 'MiB' ? `${maxBytes / 1_048_576} MiB` : writeSize(maxBytes)}`,
    (maxWidth ?? maxHeight) !== null && `up to ${maxWidth ?? 'any'} × ${maxHeight ?? 'any'}`,
    shape && `${shape.num}:${shape.den}`,
    maxFrameRate && `${nameFrameRate(maxFrameRate)} fps at most`,
    maxTotalKbps !== null && `${rate(maxTotalKbps)} in all`,
    maxPictureKbps !== null && `${rate(maxPictureKbps)} of picture`,
    brief.containers &&
      joinWords(
        brief.containers.map((one) => CONTAINER[one].name),
        'or',
      ),
    brief.codecs &&
      joinWords(
        brief.codecs.map((one) => VIDEO[one].name),
        'or',
      ),
    brief.plainPixels && '8 bits, 4:2:0',
    brief.maxLevel !== null && `level ${brief.maxLevel} at most`,
    brief.maxKeyframeSeconds !== null && `a keyframe every ${brief.maxKeyframeSeconds} s`,
    brief.soundCodecs &&
      `sound in ${joinWords(
        brief.soundCodecs.map((one) => SOUND[one].name),
        'or',
      )}`,
    brief.maxSoundKbps !== null && `sound of ${rate(brief.maxSoundKbps)}`,
    brief.maxChannels !== null && (brief.maxChannels === 1 ? 'mono' : `${brief.maxChannels} channels`),
    brief.loudness && `sound at ${brief.loudness.lufs} LUFS`,
    brief.maxSeconds !== null && `${brief.maxSeconds} s at most`,
    brief.minSeconds !== null && `${brief.minSeconds} s at least`,
    brief.plainName && 'a plain file name',
  ].filter((part) => typeof part === 'string');
  const text = parts.join(', ');
  return text ? text[0]!.toUpperCase() + text.slice(1) : 'Asks for nothing';
}
