import { joinWords } from '../text.ts';
import type { Advise } from './advisory.ts';

const LANGUAGES = new Intl.DisplayNames('en', { type: 'language' });

/** Captions inside the file: nothing but picture and sound goes into a rendition. */
export const adviseOnCaptions: Advise = ({ facts: { captions, video } }) => {
  if (captions.length === 0 || !video) return null;
  const languages = Array.from(new Set(captions.flatMap(({ language }) => language ?? [])));
  const named = languages.map((language) => LANGUAGES.of(language) ?? language);
  return {
    code: 'captions-left-out',
    severity: 'caution',
    message: `The master has captions inside${named.length > 0 ? `, in ${joinWords(named)}` : ''}; renditions leave them out.`,
    remedy: 'Export them as a file of their own, and hand that over beside the rendition.',
  };
};
