import { isStorable } from '../../core/text.ts';
import { Refusal } from '../refusal.ts';

/** What a body may be, before its schema is asked. */
export interface BodyLimits {
  readonly bytes: number;
  /** Entries of its longest list. */
  readonly entries: number;
}

/** Enough for every form; lists of paths have limits of their own. */
export const USUAL_BODY: BodyLimits = { bytes: 256_000, entries: 1000 };

/** Nothing that is sent here is nested deeper than a recipe in a list. */
const DEEPEST = 24;

/**
 * Reads a JSON body of limited size; what is too long is not read to its end.
 *
 * @throws Refusal `body-too-large`, `body-not-json`, or `field-wrong` for text no database and no file name can hold.
 */
export async function readJson(request: Request, limits: BodyLimits): Promise<unknown> {
  const text = await readText(request, limits.bytes);
  return parseJson(
    text,
    limits.entries,
    (cause) => new Refusal('body-not-json', 'The body is not valid JSON; send one JSON object.', { cause }),
  );
}

/**
 * Reads JSON that came from outside, however it came.
 *
 * @param mostEntries - Of its longest list.
 * @throws Refusal as `explain` gives it for what is no JSON, or `field-wrong` for what is too much or no text that can be held.
 */
export function parseJson(text: string, mostEntries: number, explain: (cause: unknown) => Refusal): unknown {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    throw explain(error);
  }
  requireModest(json, mostEntries);
  return json;
}

async function readText(request: Request, limitBytes: number): Promise<string> {
  const tooLarge = new Refusal(
    'body-too-large',
    `The body is larger than ${limitBytes.toLocaleString('en')} bytes, which is the most this address takes; send less at once.`,
  );
  if (Number(request.headers.get('content-length') ?? 0) > limitBytes) throw tooLarge;
  const chunks: Uint8Array[] = [];
  let total = 0;
  const reader = request.body?.getReader();
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    total += part.value.byteLength;
    if (total > limitBytes) {
      await reader?.cancel().catch(() => undefined);
      throw tooLarge;
    }
    chunks.push(part.value);
  }
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(Buffer.concat(chunks));
  } catch (error) {
    throw new Refusal('body-not-json', 'The body is not valid UTF-8; send JSON as UTF-8.', { cause: error });
  }
}

/** Walked with a list of its own: a body nested thousands deep must not fill the stack, here or in the schema. */
function requireModest(json: unknown, mostEntries: number): void {
  const waiting: { value: unknown; depth: number }[] = [{ value: json, depth: 0 }];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { value, depth } = next;
    if (typeof value === 'string') requireText(value);
    if (typeof value !== 'object' || value === null) continue;
    if (depth >= DEEPEST) throw new Refusal('field-wrong', `The body is nested more than ${DEEPEST} deep.`);
    const entries = Object.entries(value);
    if (entries.length > mostEntries) {
      const counted = entries.length.toLocaleString('en');
      throw new Refusal(
        'field-wrong',
        `A list has ${counted} entries; at most ${mostEntries.toLocaleString('en')} are taken at once.`,
      );
    }
    for (const [key, inner] of entries) {
      requireText(key);
      waiting.push({ value: inner, depth: depth + 1 });
    }
  }
}

/** @throws Refusal `field-wrong` for a NUL or half a character (a lone surrogate). */
export function requireText(text: string): void {
  if (isStorable(text)) return;
  throw new Refusal('field-wrong', 'A text holds a NUL or half a character, which no name or path can; leave it out.');
}
