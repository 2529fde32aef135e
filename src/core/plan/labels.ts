import { captionTracks } from '../captions/captionTracks.ts';
import { CONTAINER } from '../container/containers.ts';
import type { CaptionLabel, HeldLabels, Labels, SoundLabel } from '../container/labels.ts';
import { tagsIn, tidyTags, type Tag, type Tags } from '../container/tags.ts';
import type { AudioFacts, Chapter, ProgrammeFacts } from '../programme/facts.ts';
import type { MetadataChoice, Recipe } from '../recipe/recipe.ts';
import { toNumber } from '../timing/rational.ts';
import { tidyLine } from '../text.ts';
import { frameToTimecode, readTimecodeStart } from '../timing/timecode.ts';
import type { PicturePath, SoundStream, SourceSpan } from './encodePlan.ts';

interface LabelledResult {
  readonly span: SourceSpan;
  /** null where there is no picture. */
  readonly picture: Pick<PicturePath, 'out'> | null;
  readonly sounds: readonly SoundStream[];
}

/**
 * What a master tells that goes along into a result: chapters cut to the span and counted from its beginning, the timecode of its first
 * frame, the language of each sound, its title where it is of one track, and of the file itself what is asked for.
 *
 * @returns null where there is nothing to tell, or the container tells nothing.
 */
export function labelsOf(
  facts: ProgrammeFacts,
  { container, file }: Pick<Recipe, 'container' | 'file'>,
  { span, picture, sounds }: LabelledResult,
): Labels | null {
  const { holds } = CONTAINER[container];
  const tags = tagsOf(facts, file.metadata, holds);
  const labels: Labels = {
    chapters: holds.chapters && file.chapters ? cutChapters(facts, span) : [],
    timecode: holds.timecode && picture ? timecodeOf(facts, span, picture) : null,
    sounds: holds.sounds
      ? sounds.map(({ from }) => {
          const { language, title } = labelOf(from.flatMap(({ streamIndex }) => trackAt(facts, streamIndex)));
          const isTaken = holds.sharesTitle && tags.title !== undefined;
          return { language: nameOf(language, holds), title: isTaken ? null : titleIn(title, holds) };
        })
      : [],
    tags,
    captions: holds.captions && file.captions === 'embed' && picture ? captionsOf(facts, span, holds) : [],
  };
  const listed = labels.chapters.length + labels.captions.length + Object.keys(tags).length;
  const tells = listed > 0 || labels.timecode !== null || labels.sounds.some(isTold);
  return tells ? labels : null;
}

/** What a file tells of itself, as far as it can. */
function tagsOf({ metadata }: ProgrammeFacts, choice: MetadataChoice, holds: HeldLabels): Tags {
  if (choice === 'strip') return {};
  const told = choice === 'keep' ? tagsIn(metadata) : tidyTags(choice);
  return Object.fromEntries(Object.entries(told).filter(([name]) => holds.tags.includes(name as Tag)));
}

/** What is less than this of a chapter at either end of a span is not worth finding, and no two begin nearer to each other. */
const LEAST_CHAPTER_SECONDS = 0.5;

/** MP4's list counts them in a byte. */
const MOST_CHAPTERS = 255;

function cutChapters({ chapters, video }: ProgrammeFacts, { startSeconds, seconds }: SourceSpan): Chapter[] {
  // Chapters are told by the clock of the file, spans by that of its picture.
  const start = startSeconds + (video?.startSeconds ?? 0);
  const cut = chapters
    .map(({ title, ...chapter }, index) => ({
      startSeconds: Math.max(0, chapter.startSeconds - start),
      endSeconds: Math.min(seconds, chapter.endSeconds - start),
      title: tidyLine(title, LONGEST_TITLE) ?? `Chapter ${index + 1}`,
    }))
    .filter((chapter) => chapter.endSeconds - chapter.startSeconds >= LEAST_CHAPTER_SECONDS)
    .toSorted((a, b) => a.startSeconds - b.startSeconds);
  return inARow(cut).slice(0, MOST_CHAPTERS);
}

/** Files hold them in a row: one ends where the next begins. */
function inARow(chapters: readonly Chapter[]): Chapter[] {
  const row: Chapter[] = [];
  for (const chapter of chapters) {
    const last = row.at(-1);
    if (last && chapter.startSeconds < last.startSeconds + LEAST_CHAPTER_SECONDS) continue;
    if (last && chapter.startSeconds < last.endSeconds)
      row.splice(-1, 1, { ...last, endSeconds: chapter.startSeconds });
    row.push(chapter);
  }
  return row;
}

/** As long as every container holds it: MP4 counts the bytes of a title in one. */
const LONGEST_TITLE = 80;

/** Of so few frames a second some readers write one digit, and a timecode has two. */
const FEW_FRAMES = 10;

/** Frames of another rate have no timecode of the master's. */
function timecodeOf(
  { startTimecode, frameRate, video }: ProgrammeFacts,
  { inFrame }: SourceSpan,
  { out }: Pick<PicturePath, 'out'>,
): string | null {
  const isSameRate = out.frameRate.num * frameRate.den === frameRate.num * out.frameRate.den;
  if (startTimecode === null || !video?.constantRate || !isSameRate || toNumber(frameRate) <= FEW_FRAMES) return null;
  return frameToTimecode(inFrame, frameRate, readTimecodeStart(startTimecode, frameRate));
}

function trackAt({ audio }: ProgrammeFacts, streamIndex: number): AudioFacts[] {
  return audio.filter(({ index }) => index === streamIndex);
}

/** A track by itself, and what people can read in a second with the time and place of each line (measured on made captions). */
const CAPTION_BYTES = 700;
const CAPTION_BYTES_PER_SECOND = 40;

/** Those that are text, whether inside the master or beside it. */
function captionsOf(facts: ProgrammeFacts, { seconds }: SourceSpan, holds: HeldLabels): CaptionLabel[] {
  const bytes = Math.ceil(CAPTION_BYTES + CAPTION_BYTES_PER_SECOND * seconds);
  return captionTracks(facts).flatMap(({ isText, language }, number) =>
    isText ? [{ number, language: nameOf(language, holds), bytes }] : [],
  );
}

/** Files are written by people too: what is no code of ISO 639-2 is not told. */
function nameOf(language: string | null, { language: named = (code) => code }: HeldLabels): string | null {
  return language !== null && /^[a-z]{3}$/.test(language) ? named(language) : null;
}

function titleIn(title: string | null, { tellsTitle = () => true }: HeldLabels): string | null {
  const line = title === null ? null : tidyLine(title, LONGEST_TITLE);
  return line !== null && tellsTitle(line) ? line : null;
}

/** What several tracks become is told of only as far as they agree. */
function labelOf(tracks: readonly AudioFacts[]): SoundLabel {
  const [first, ...others] = tracks;
  const language = first && others.every((other) => other.language === first.language) ? first.language : null;
  return { language, title: others.length === 0 ? (first?.title ?? null) : null };
}

/** Whether anything is told of a sound. */
function isTold({ language, title }: SoundLabel): boolean {
  return language !== null || title !== null;
}
