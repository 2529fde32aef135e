import type { PortionView } from '../../contract/views.ts';
import type { Portion } from '../../core/programme/facts.ts';

/** An id for a portion made here: unlike any other, and short enough to read in a script. */
function newId(): string {
  return crypto.randomUUID().slice(0, 13);
}

/** The first name that is free. */
function nextName(portions: readonly PortionView[]): string {
  const taken = new Set(portions.map(({ name }) => name));
  for (let number = 1; ; number += 1) if (!taken.has(`Portion ${number}`)) return `Portion ${number}`;
}

/** Adds a portion after the others. */
export function addPortion(portions: readonly PortionView[], span: Portion): [PortionView[], PortionView] {
  const { inFrame, outFrame } = span;
  const added = { id: newId(), name: nextName(portions), inFrame, outFrame };
  return [[...portions, added], added];
}

export function changePortion(
  portions: readonly PortionView[],
  id: string,
  change: Partial<Omit<PortionView, 'id'>>,
): PortionView[] {
  return portions.map((portion) => (portion.id === id ? { ...portion, ...change } : portion));
}

/** Moves a portion by places in the order. */
export function reorderPortion(portions: readonly PortionView[], from: number, to: number): PortionView[] {
  const list = [...portions];
  const [moved] = list.splice(from, 1);
  if (moved) list.splice(to, 0, moved);
  return list;
}

/**
 * Sets one end. Where it would come to lie beyond the other, the portion moves there with its length, as far as the
 * programme goes; it never becomes a single frame unasked.
 *
 * @param frames - Of the programme.
 * @returns Also whether the other end moved, which is told.
 */
export function setEnd(
  portion: Portion,
  end: 'in' | 'out',
  frame: number,
  frames: number,
): Portion & { readonly hasMoved: boolean } {
  const { inFrame, outFrame } = portion;
  const length = outFrame - inFrame;
  if (end === 'in') {
    const hasMoved = frame > outFrame;
    return { inFrame: frame, outFrame: hasMoved ? Math.min(frames - 1, frame + length) : outFrame, hasMoved };
  }
  const hasMoved = frame < inFrame;
  return { inFrame: hasMoved ? Math.max(0, frame - length) : inFrame, outFrame: frame, hasMoved };
}

/** From the scene change at or before a frame to the frame before the next one. */
export function sceneAround(sceneChanges: readonly number[], frame: number, frames: number): Portion {
  const inFrame = sceneChanges.findLast((change) => change <= frame) ?? 0;
  const next = sceneChanges.find((change) => change > frame) ?? frames;
  return { inFrame, outFrame: next - 1 };
}
