import type { Labels } from '../../core/container/labels.ts';
import type { Chapter } from '../../core/programme/facts.ts';

/** Chapters are an input of their own; none where there are none. */
export function chapterInput(labels: Labels | null): string[] {
  if (!labels || labels.chapters.length === 0) return [];
  const list = Buffer.from(chapterList(labels.chapters), 'utf8').toString('base64');
  return ['-protocol_whitelist', 'data', '-f', 'ffmetadata', '-i', `data:text/plain;base64,${list}`];
}

/**
 * Options by which a result tells its labels, and nothing else of its source.
 *
 * @param inputs - How many there are before that of the chapters.
 * @param titleTag - Where the container keeps the title of a sound.
 */
export function labelled(labels: Labels | null, inputs: number, titleTag: string): string[] {
  if (!labels) return ['-map_metadata', '-1', '-map_chapters', '-1'];
  const { chapters, timecode, sounds } = labels;
  // What is told of the chapters themselves comes with them.
  const told = chapters.length > 0 ? ['-map_chapters', String(inputs)] : ['-map_chapters', '-1'];
  const ofSound = (number: number, tag: string, value: string | null) =>
    value === null ? [] : [`-metadata:s:a:${number}`, `${tag}=${value}`];
  return [
    ...['-map_metadata:g', '-1', '-map_metadata:s', '-1', ...told],
    ...(timecode === null ? [] : ['-metadata:s:v:0', `timecode=${timecode}`]),
    ...sounds.flatMap(({ language, title }, number) => [
      ...ofSound(number, 'language', language),
      ...ofSound(number, titleTag, title),
    ]),
  ];
}

const MILLISECONDS = 1000;

/** As the engine reads it; what means something to it is told so in titles. */
function chapterList(chapters: readonly Chapter[]): string {
  const lines = chapters.flatMap(({ startSeconds, endSeconds, title }) => [
    '[CHAPTER]',
    `TIMEBASE=1/${MILLISECONDS}`,
    `START=${Math.round(startSeconds * MILLISECONDS)}`,
    `END=${Math.round(endSeconds * MILLISECONDS)}`,
    `title=${title.replace(/\s+/g, ' ').replace(/[=;#\\]/g, '\\$&')}`,
  ]);
  return `;FFMETADATA1\n${lines.join('\n')}\n`;
}
