import type { Check } from '../../contract/views.ts';
import type { Labels } from '../../core/container/labels.ts';
import { TAGS, tagsIn, type Tags } from '../../core/container/tags.ts';
import type { EncodePlan } from '../../core/plan/encodePlan.ts';
import type { Chapter, ProgrammeFacts } from '../../core/programme/facts.ts';
import { same } from './checks.ts';

/** Whether a result tells what its plan says: chapters, timecode, languages and titles of sounds, and what it is. */
export function checkLabels({ labels }: EncodePlan, found: ProgrammeFacts): Check[] {
  if (!labels) return [];
  const { chapters, timecode, sounds, captions, tags } = labels;
  return [
    ...(chapters.length > 0 ? [checkChapters(chapters, found.chapters)] : []),
    ...(timecode === null ? [] : [same('Timecode', timecode, found.startTimecode ?? 'none')]),
    ...checkSounds(sounds, found),
    ...checkTags(tags, tagsIn(found.metadata)),
    ...(captions.length > 0 ? [same('Captions', nameCaptions(captions), nameCaptions(found.captions))] : []),
  ];
}

function checkTags(wanted: Tags, found: Tags): Check[] {
  return TAGS.flatMap((tag) => {
    const value = wanted[tag];
    return value === undefined ? [] : [same(`The file tells its ${tag}`, value, found[tag] ?? 'none')];
  });
}

/** Containers count them in thousandths of a second, and one of them from the beginning of its sound. */
const CHAPTER_SLACK_SECONDS = 0.03;

function checkChapters(wanted: readonly Chapter[], found: readonly Chapter[]): Check {
  const isThere = wanted.every(({ title, startSeconds }, index) => {
    const other = found[index];
    const isNear = Math.abs((other?.startSeconds ?? NaN) - startSeconds) <= CHAPTER_SLACK_SECONDS;
    return isNear && other?.title === title;
  });
  const name = (chapters: readonly Chapter[]) => chapters.map(({ title }) => title).join('; ') || 'none';
  return {
    name: 'Chapters',
    ok: isThere && found.length === wanted.length,
    expected: name(wanted),
    found: name(found),
  };
}

/** One that names no language is told of as well. */
function nameCaptions(captions: readonly { readonly language: string | null }[]): string {
  return captions.map(({ language }) => language ?? 'no language').join(', ') || 'none';
}

function checkSounds(wanted: Labels['sounds'], { audio }: ProgrammeFacts): Check[] {
  const asked = wanted.flatMap(({ language, title }, number) => [
    ...(language === null ? [] : [{ number, of: 'language' as const, expected: language }]),
    ...(title === null ? [] : [{ number, of: 'title' as const, expected: title }]),
  ]);
  return asked.map(({ number, of, expected }) =>
    same(
      `${wanted.length > 1 ? `Sound ${number + 1}` : 'Sound'} tells its ${of}`,
      expected,
      audio[number]?.[of] ?? 'none',
    ),
  );
}
