import { nameLanguage } from '../captions/captionTracks.ts';
import { joinWords } from '../text.ts';
import type { Advise } from './advisory.ts';

/** Captions inside the file: nothing but picture and sound goes into a rendition. */
export const adviseOnCaptions: Advise = ({ facts: { captions, video } }) => {
  if (captions.length === 0 || !video) return null;
  const named = Array.from(new Set(captions.flatMap(({ language }) => language ?? []))).map(nameLanguage);
  return {
    code: 'captions-left-out',
    severity: 'caution',
    message: `The master has captions inside${named.length > 0 ? `, in ${joinWords(named)}` : ''}; renditions leave them out.`,
    remedy: 'Those that are text are handed over beside each rendition, cut to its length: see its details.',
  };
};
