import { bySeverity, type Advise, type Advisory, type Subject } from './advisory.ts';
import { adviseOnCaptions } from './captionAdvice.ts';
import * as colour from './colourAdvice.ts';
import * as length from './lengthAdvice.ts';
import * as picture from './pictureAdvice.ts';
import * as sound from './soundAdvice.ts';

/** Every kind of advisory on a picture. */
export const PICTURE_ADVICE: readonly Advise[] = [
  picture.adviseOnDamage,
  picture.adviseOnScan,
  picture.adviseOnScanTag,
  picture.adviseOnBars,
  picture.adviseOnVariableRate,
  picture.adviseOnRoundedRate,
  picture.adviseOnPixelShape,
  picture.adviseOnRotation,
  picture.adviseOnOddSize,
  picture.adviseOnThinSource,
  colour.adviseOnHdr,
  colour.adviseOnTagAgainstSize,
  colour.adviseOnMissingTags,
  colour.adviseOnFullRange,
  colour.adviseOnBitDepth,
  length.adviseOnEnds,
  length.adviseOnFrozen,
  length.adviseOnSmallSource,
];

/** Every kind of advisory on sound. */
export const SOUND_ADVICE: readonly Advise[] = [
  sound.adviseOnSilence,
  sound.adviseOnSoundSpan,
  sound.adviseOnEmptyChannel,
  sound.adviseOnPhase,
  sound.adviseOnIdenticalChannels,
  sound.adviseOnLoudness,
  sound.adviseOnTruePeak,
  sound.adviseOnTracks,
];

/** Every kind of advisory on what lies beside both. */
export const CAPTION_ADVICE: readonly Advise[] = [adviseOnCaptions];

/**
 * All that should be known about a programme before it is encoded, the serious first.
 *
 * @param subject - Without findings only what the facts alone tell.
 */
export function adviseOnProgramme(subject: Subject): Advisory[] {
  return [...PICTURE_ADVICE, ...SOUND_ADVICE, ...CAPTION_ADVICE]
    .map((advise) => advise(subject))
    .filter((advisory) => advisory !== null)
    .toSorted(bySeverity);
}
