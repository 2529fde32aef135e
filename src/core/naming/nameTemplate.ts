import { isStorable } from '../text.ts';

/** What a name may tell of a rendition, each in braces. */
export const NAME_FIELDS = [
  ...(['programme', 'portion', 'recipe', 'size', 'width', 'height', 'fps'] as const),
  ...(['codec', 'sound', 'date'] as const),
] as const;
export type NameField = (typeof NAME_FIELDS)[number];

/** What each field says of one rendition; empty where there is nothing of the kind. */
export type NameFields = Readonly<Record<NameField, string>>;

/** How renditions are named where nothing else is asked for. */
export const USUAL_NAME = '{programme}, {portion} {size} {codec}';
export const USUAL_SOUND_NAME = '{programme}, {portion} sound';

export const LONGEST_TEMPLATE = 180;

/** A field with what sets it off from what stands before, and what is joined to it: `, {height}p`, ` ({size})`. */
const FIELD = /([^\p{L}\p{N}{}]*)\{([a-z]*)\}([\p{L}\p{N}]*[)\]]?)/gu;

/**
 * Says what is wrong with a template for names.
 *
 * @returns null when it can be used as it is.
 */
export function faultInTemplate(template: string): string | null {
  if (template.trim() === '') return 'It is empty; type how files are to be named, such as {programme} {size}.';
  if (!isStorable(template)) return 'It holds half a character; type it again.';
  if (template.length > LONGEST_TEMPLATE) return `It is longer than ${LONGEST_TEMPLATE} characters; shorten it.`;
  const unknown = [...template.matchAll(FIELD)].map(([, , name]) => name!).find((name) => !isField(name));
  if (unknown !== undefined) return `There is no {${unknown}}; there are ${NAME_FIELDS.map(inBraces).join(', ')}.`;
  if (/[{}]/.test(template.replace(FIELD, ''))) return 'A brace is not closed; fields are written as {programme}.';
  return null;
}

/**
 * The name a template gives. A field with nothing to say goes with what sets it off from what stands before, and what is joined to it.
 *
 * @returns Without an ending, and not yet safe for a file system.
 */
export function fillTemplate(template: string, fields: NameFields): string {
  const filled = template.replace(FIELD, (_whole, before: string, name: string, after: string) => {
    const value = isField(name) ? fields[name] : '';
    if (value !== '') return before + value + after;
    return /[([]/.test(before) ? '' : after.replace(/^[\p{L}\p{N}]+/u, '');
  });
  return filled.replace(/^[\s,;_–-]+/u, '');
}

function isField(name: string): name is NameField {
  return (NAME_FIELDS as readonly string[]).includes(name);
}

function inBraces(name: string): string {
  return `{${name}}`;
}
