import type { Labels } from '../../core/container/labels.ts';
import type { Chapter } from '../../core/programme/facts.ts';
import type { Muxer } from '../muxers/muxer.ts';

/** What a result tells, with its captions at hand. */
export interface WrittenLabels extends Labels {
  /** One for each of its captions, WebVTT of the result’s length; absolute. */
  readonly captionFiles: readonly string[];
}

/** Inputs of their own: chapters where there are any, and then captions. */
export function labelInputs(labels: WrittenLabels | null): string[] {
  if (!labels) return [];
  const { chapters, captionFiles } = labels;
  const list = Buffer.from(chapterList(chapters), 'utf8').toString('base64');
  return [
    ...(chapters.length === 0
      ? []
      : ['-protocol_whitelist', 'data', '-f', 'ffmetadata', '-i', `data:text/plain;base64,${list}`]),
    ...captionFiles.flatMap((file) => ['-protocol_whitelist', 'file', '-f', 'webvtt', '-i', `file:${file}`]),
  ];
}

/**
 * Options by which a result tells its labels, and nothing else of its source.
 *
 * @param inputs - How many there are before those of the labels.
 */
export function labelled(
  labels: WrittenLabels | null,
  inputs: number,
  { titleTag = 'title', captionsAs }: Muxer,
): string[] {
  if (!labels) return ['-map_metadata', '-1', '-map_chapters', '-1'];
  const { chapters, timecode, sounds, captions, tags } = labels;
  const firstOfCaptions = inputs + (chapters.length > 0 ? 1 : 0);
  // What is told of the chapters themselves comes with them.
  const told = chapters.length > 0 ? ['-map_chapters', String(inputs)] : ['-map_chapters', '-1'];
  const tagged = (stream: string, tag: string, value: string | null) =>
    value === null ? [] : [`-metadata:s:${stream}`, `${tag}=${value}`];
  return [
    ...['-map_metadata:g', '-1', '-map_metadata:s', '-1', ...told],
    ...Object.entries(tags).flatMap(([tag, value]) => ['-metadata', `${tag}=${value}`]),
    ...tagged('v:0', 'timecode', timecode),
    ...sounds.flatMap(({ language, title }, number) => [
      ...tagged(`a:${number}`, 'language', language),
      ...tagged(`a:${number}`, titleTag, title),
    ]),
    ...captions.flatMap(({ language }, number) => [
      ...['-map', `${firstOfCaptions + number}:s:0`],
      ...tagged(`s:${number}`, 'language', language),
    ]),
    ...(captions.length > 0 && captionsAs ? ['-c:s', captionsAs] : []),
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
    `title=${title.replace(/[=;#\\]/g, '\\$&')}`,
  ]);
  return `;FFMETADATA1\n${lines.join('\n')}\n`;
}
