import type { Chapter } from '../programme/facts.ts';

/** What a file tells of its streams beside what it shows: how people find their way in it. */
export interface Labels {
  /** In seconds from the beginning of the file, in order. */
  readonly chapters: readonly Chapter[];
  /** Of the first frame; null where nothing is told. */
  readonly timecode: string | null;
  /** One for each sound, in the order of the streams. */
  readonly sounds: readonly SoundLabel[];
  /** Those that lie inside, in order. */
  readonly captions: readonly CaptionLabel[];
}

export interface SoundLabel {
  /** Three letters of ISO 639-2; null where nothing is told. */
  readonly language: string | null;
  readonly title: string | null;
}

/** Captions that go into a file. */
export interface CaptionLabel {
  /** Which of the programme’s captions they are, from 0: those inside the master, then those beside it. */
  readonly number: number;
  readonly language: string | null;
  /** What they take, before they are read: rather above the truth. */
  readonly bytes: number;
}

/** What a container can tell; none of it takes more than `bytesOf` says. */
export interface HeldLabels {
  readonly chapters: boolean;
  readonly timecode: boolean;
  readonly sounds: boolean;
  /** Whether a title of a sound is read back as one; where it is not told, every title is. */
  readonly tellsTitle?: (title: string) => boolean;
  /** Whether captions that are text lie inside it. */
  readonly captions: boolean;
  /** How it names a language of ISO 639-2, null where it has no name for it; where it is not told, every language by its own letters. */
  readonly language?: (code: string) => string | null;
  /** The bytes that labels take: rather a little above the truth. */
  readonly bytesOf: (labels: Labels) => number;
}

/** No labels at all. */
export const HOLDS_NONE: HeldLabels = {
  chapters: false,
  timecode: false,
  sounds: false,
  captions: false,
  bytesOf: () => 0,
};

/**
 * What chapters, captions and names of sounds take.
 *
 * @param head - Once, where there are chapters.
 * @param chapter - Bytes of a chapter whose title takes so many.
 * @param sound - Bytes of a sound whose title takes so many.
 */
export function weighLabels(
  { chapters, sounds, captions }: Labels,
  head: number,
  chapter: (title: number) => number,
  sound: (title: number) => number,
): number {
  const titles = chapters.map(({ title }) => chapter(utf8Bytes(title)));
  const named = sounds.map(({ title }) => sound(title === null ? 0 : utf8Bytes(title)));
  const text = captions.map((one) => one.bytes);
  return [chapters.length > 0 ? head : 0, ...titles, ...named, ...text].reduce((sum, part) => sum + part, 0);
}

function utf8Bytes(text: string): number {
  return new TextEncoder().encode(text).length;
}
