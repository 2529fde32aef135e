import type { Chapter } from '../programme/facts.ts';
import type { Tag, Tags } from './tags.ts';

/** What a file tells beside what it shows: how people find their way in it, and what it is. */
export interface Labels {
  /** In seconds from the beginning of the file, in order. */
  readonly chapters: readonly Chapter[];
  /** Of the first frame; null where nothing is told. */
  readonly timecode: string | null;
  /** One for each sound, in the order of the streams. */
  readonly sounds: readonly SoundLabel[];
  /** Those that lie inside, in order. */
  readonly captions: readonly CaptionLabel[];
  /** Of the file as a whole. */
  readonly tags: Tags;
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
  /** What of itself it tells, so that every player that reads it finds it. */
  readonly tags: readonly Tag[];
  /** Whether it has one title for itself and its sound. */
  readonly sharesTitle?: true;
  /** Whether captions that are text lie inside it. */
  readonly captions: boolean;
  /** How it names a language of ISO 639-2, null where it has no name for it; where it is not told, every language by its own letters. */
  readonly language?: (code: string) => string | null;
  /** The bytes that labels take: rather a little above the truth. */
  readonly bytesOf: (labels: Labels) => number;
}

/** The bytes that each kind of label takes, of a text that takes so many. */
interface LabelWeights {
  /** Once, where there are chapters. */
  readonly chapterList: number;
  readonly chapter: (title: number) => number;
  readonly sound: (title: number) => number;
  /** Once, where anything is told of the file. */
  readonly tagList: number;
  /** Of a tag whose text takes so many; its name comes to it where files write it out. */
  readonly tag: (text: number, name: number) => number;
}

/** What labels of every kind but timecodes take. */
export function weighLabels(labels: Labels, weights: LabelWeights): number {
  const { chapters, sounds, captions, tags } = labels;
  const told = Object.entries(tags).map(([name, text]) => weights.tag(utf8Bytes(text), name.length));
  return [
    chapters.length > 0 ? weights.chapterList : 0,
    ...chapters.map(({ title }) => weights.chapter(utf8Bytes(title))),
    ...sounds.map(({ title }) => weights.sound(title === null ? 0 : utf8Bytes(title))),
    ...captions.map((one) => one.bytes),
    told.length > 0 ? weights.tagList : 0,
    ...told,
  ].reduce((sum, part) => sum + part, 0);
}

/** A container that tells nothing but what it is. */
export function holdsTagsAlone(tags: readonly Tag[], weights: Pick<LabelWeights, 'tagList' | 'tag'>): HeldLabels {
  const none = { chapterList: 0, chapter: () => 0, sound: () => 0 };
  return {
    chapters: false,
    timecode: false,
    sounds: false,
    captions: false,
    tags,
    bytesOf: (labels) => weighLabels(labels, { ...none, ...weights }),
  };
}

function utf8Bytes(text: string): number {
  return new TextEncoder().encode(text).length;
}
