import { captionTracks, hasTextCaptions, nameLanguage } from '../captions/captionTracks.ts';
import { joinWords } from '../text.ts';
import type { Advise } from './advisory.ts';
import type { AdviseOnSetting } from './adviseOnSetting.ts';

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
      ? 'They are handed over beside each rendition, cut to its length (see its details), put into it, or drawn into its picture.'
      : 'They are stored as pictures, and cannot be handed over as text.',
    ...(areText ? { fix: { kind: 'embed', label: 'Put them into the file' } as const } : {}),
  };
};

/** A recipe for many programmes may ask for captions of one that has none. */
export const noneDrawn: AdviseOnSetting = ({ facts, recipe }) =>
  recipe.file.captions === 'burn' && recipe.video && captionTracks(facts).length === 0
    ? {
        code: 'no-captions-drawn',
        severity: 'note',
        field: 'file.captions',
        message: 'This programme has no captions, inside or beside it; none are drawn in.',
        remedy: 'A file of them beside the master, under its name, is found when the master is looked at again.',
      }
    : null;
