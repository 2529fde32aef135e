import type { ProgrammeFacts } from '../programme/facts.ts';

/** Captions that belong to a programme. */
export interface CaptionTrack {
  /** For people: the language, or the name of the file. */
  readonly label: string;
  /** For a file's name: `deu`, or `2` for the second that names no language; empty for the first file beside. */
  readonly mark: string;
  /** Position of the stream in the master, or the name of a file beside it. */
  readonly from: { readonly stream: number } | { readonly file: string };
  /** Three letters of ISO 639-2; null where nothing is told. */
  readonly language: string | null;
  /** Whether they are text; those that are pictures cannot be written as text. */
  readonly isText: boolean;
}

/** By the engine's names: what it reads as text. */
const TEXT_CODECS: readonly string[] = [
  ...['subrip', 'ass', 'ssa', 'webvtt', 'mov_text', 'text', 'eia_608'],
  ...['microdvd', 'subviewer', 'sami', 'realtext', 'jacosub', 'mpl2', 'vplayer'],
];

/** Endings of files beside a master that the engine reads. */
const TEXT_ENDING = /\.(srt|vtt|ass)$/i;

const LANGUAGES = new Intl.DisplayNames('en', { type: 'language' });

/** A language as people call it: `German` for `deu`. */
export function nameLanguage(language: string): string {
  try {
    return LANGUAGES.of(language) ?? language;
  } catch {
    // Some files have words there that are no code at all.
    return language;
  }
}

/** Captions inside a programme's master, and then those in files beside it. */
export function captionTracks({ captions, sidecars }: Pick<ProgrammeFacts, 'captions' | 'sidecars'>): CaptionTrack[] {
  const inside = captions.map(({ index, codec, language }, number): CaptionTrack => {
    const named = language === null ? `captions ${number + 1}` : nameLanguage(language);
    const isAgain = captions.slice(0, number).some((other) => other.language === language);
    return {
      label: isAgain && language !== null ? `${named}, ${number + 1}` : named,
      mark: language === null ? String(number + 1) : isAgain ? `${language}-${number + 1}` : language,
      from: { stream: index },
      language,
      isText: TEXT_CODECS.includes(codec),
    };
  });
  const beside = sidecars.map((file, number): CaptionTrack => {
    return {
      label: file,
      mark: number === 0 ? '' : String(number + 1),
      from: { file },
      language: null,
      isText: TEXT_ENDING.test(file),
    };
  });
  return [...inside, ...beside];
}

/** Whether a programme has captions that can be handed over as text. */
export function hasTextCaptions(programme: Parameters<typeof captionTracks>[0]): boolean {
  return captionTracks(programme).some(({ isText }) => isText);
}
