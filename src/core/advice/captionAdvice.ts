import { hasTextCaptions, nameLanguage } from '../captions/captionTracks.ts';
import { joinWords } from '../text.ts';
import type { Advise } from './advisory.ts';

/** Captions inside the file: what a rendition hands over beside itself is easily left behind. */
export const adviseOnCaptions: Advise = ({ facts }) => {
  const { captions, video } = facts;
  if (captions.length === 0 || !video) return null;
  const named = Array.from(new Set(captions.flatMap(({ language }) => language ?? []))).map(nameLanguage);
  const areText = hasTextCaptions(facts);
  return {
    code: 'captions-left-out',
    severity: 'caution',
    message: `The master has captions inside${named.length > 0 ? `, in ${joinWords(named)}` : ''}; renditions leave them out.`,
    remedy: areText
      ? 'They are handed over beside each rendition, cut to its length (see its details), or put into it.'
      : 'They are stored as pictures, and cannot be handed over as text.',
    ...(areText ? { fix: { kind: 'embed', label: 'Put them into the file' } as const } : {}),
  };
};
