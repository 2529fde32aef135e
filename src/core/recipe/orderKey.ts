import type { Portion } from '../programme/facts.ts';
import type { Recipe } from './recipe.ts';

/**
 * A short text that is the same for the same order of one programme, and for no other that anyone will meet.
 *
 * @param portion - null is the whole.
 */
export function orderKey(recipe: Recipe, portion: Portion | null): string {
  const span = portion && [portion.inFrame, portion.outFrame];
  return digest(JSON.stringify([recipe, span], inOrder));
}

/** Databases hand keys back in an order of their own. */
function inOrder(_key: string, value: unknown): unknown {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value;
  return Object.fromEntries(Object.entries(value).sort(([a], [b]) => a.localeCompare(b)));
}

/** Two rounds of FNV-1a (Fowler, Noll, Vo; 32 bits; from memory) with different beginnings: no secret is kept by it. */
function digest(text: string): string {
  return [0x811c9dc5, 0x1b873593]
    .map((start) => {
      let hash = start;
      for (let index = 0; index < text.length; index += 1) {
        hash = Math.imul(hash ^ text.charCodeAt(index), 0x01000193);
      }
      return (hash >>> 0).toString(16).padStart(8, '0');
    })
    .join('');
}
