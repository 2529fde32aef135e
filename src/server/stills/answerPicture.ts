import { recipeSchema } from '../../contract/recipe.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { parseJson, USUAL_BODY } from '../guard/readJson.ts';
import { readQuestion } from '../http.ts';
import { Refusal } from '../refusal.ts';

const WIDTH_RANGE = [16, 1920] as const;

/** A PNG; the same address is always the same picture while the file is unchanged, so a short stay is safe. */
export function answerPicture(picture: Buffer): Response {
  return new Response(new Uint8Array(picture), {
    headers: { 'content-type': 'image/png', 'cache-control': 'private, max-age=60' },
  });
}

/** Takes `312` and `312.png`. */
export function readFrameNumber(text: string): number {
  const match = /^(\d{1,9})(?:\.png)?$/.exec(text);
  if (!match) throw new Refusal('field-wrong', `Expected a frame number, got “${text}”.`, { field: 'frame' });
  return Number(match[1]);
}

/** The recipe asked for in the query, as JSON. */
export function readRecipe(request: Request): Recipe {
  const text = new URL(request.url).searchParams.get('recipe') ?? '';
  const explain = (cause: unknown) =>
    new Refusal('field-wrong', 'Expected a recipe as JSON.', { field: 'recipe', cause });
  return readQuestion(recipeSchema, parseJson(text, USUAL_BODY.entries, explain)) as Recipe;
}

/** The width asked for in the query, or null for the full frame. */
export function readWidth(request: Request): number | null {
  const text = new URL(request.url).searchParams.get('width');
  if (text === null) return null;
  const width = Number(text);
  if (!Number.isInteger(width) || width < WIDTH_RANGE[0] || width > WIDTH_RANGE[1]) {
    throw new Refusal('field-wrong', `Expected a width from ${WIDTH_RANGE.join(' to ')}, got “${text}”.`, {
      field: 'width',
    });
  }
  return width;
}
