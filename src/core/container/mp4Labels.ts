import { isWritersWord } from '../programme/handlerName.ts';
import { TAGS } from './tags.ts';
import { weighLabels, type HeldLabels, type Labels } from './labels.ts';

/** A track of text that is named as chapters, and their list among the user data (QuickTime file format); what they take was measured. */
const CHAPTERS_BYTES = 640;
/** A box for what the file tells of itself, with its own head (measured). */
const TAGS_BYTES = 100;
/** A track of one sample (QuickTime file format, “Timecode media”), measured. */
const TIMECODE_BYTES = 600;

function bytesOf(labels: Labels): number {
  const told = weighLabels(labels, {
    chapterList: CHAPTERS_BYTES,
    chapter: (title) => 35 + 2 * title,
    sound: (title) => 16 + title,
    tagList: TAGS_BYTES,
    tag: (text) => 24 + text,
  });
  return told + (labels.timecode === null ? 0 : TIMECODE_BYTES);
}

/** MP4 has no timecode of its own. */
export const MP4_LABELS: HeldLabels = {
  chapters: true,
  timecode: false,
  sounds: true,
  captions: true,
  tags: TAGS,
  tellsTitle: (title) => !isWritersWord(title),
  bytesOf,
};

/** What MOV tells. */
export const MOV_LABELS: HeldLabels = {
  ...MP4_LABELS,
  timecode: true,
  // It has no place for a description (QuickTime file format, “User data text strings”).
  tags: TAGS.filter((tag) => tag !== 'description'),
  language: macintoshLanguage,
};

/** Languages that have a number there (QuickTime file format, “Language code values”), by the letters our engine knows them by (measured). */
const MACINTOSH = new Set(
  (
    'eng fra ger ita dut sve spa dan por nor heb jpn ara fin gre ice mlt tur chi urd hin tha kor lit pol hun est lav rus ' +
    'alb ron ces slk slv yid mac bul ukr bel uzb kaz aze arm geo mol kir tgk tuk mon pus kur kas snd tib nep san mar ben ' +
    'asm guj ori mal kan tam tel sin bur khm lao vie ind tgl may amh tir orm som swa kin run nya mlg epo baq cat lat que ' +
    'grn aym tat uig dzo jav'
  ).split(' '),
);

/** ISO 639-2 has two names for some languages; those of which only the other has a number. */
const OTHER_NAMES: Readonly<Record<string, string>> = {
  ...{ fre: 'fra', deu: 'ger', nld: 'dut', swe: 'sve', ell: 'gre', isl: 'ice', zho: 'chi', sqi: 'alb', rum: 'ron' },
  ...{ cze: 'ces', slo: 'slk', mkd: 'mac', hye: 'arm', kat: 'geo', bod: 'tib', mya: 'bur', msa: 'may', eus: 'baq' },
};

function macintoshLanguage(code: string): string | null {
  const name = OTHER_NAMES[code] ?? code;
  return MACINTOSH.has(name) ? name : null;
}
