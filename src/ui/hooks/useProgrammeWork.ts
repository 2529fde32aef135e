'use client';

import { useCallback, useEffect, useMemo, useRef } from 'react';
import { toast } from 'sonner';
import { recipeSchema } from '../../contract/recipe.ts';
import { parseWith } from '../../contract/strictObject.ts';
import type { PortionView, ProgrammeView } from '../../contract/views.ts';
import { STARTING_RECIPE, type Recipe } from '../../core/rate/recipe.ts';
import { api } from './api.ts';
import { useUndoable } from './useUndoable.ts';
import { useActKey } from './useWorkKey.ts';

/** What a person decides about a programme: how it is encoded, and which portions of it. */
interface Work {
  readonly recipe: Recipe;
  /** In their order; none means the whole programme. */
  readonly portions: readonly PortionView[];
}

export interface ProgrammeWork extends Work {
  readonly changeRecipe: (recipe: Recipe) => void;
  readonly changePortions: (portions: readonly PortionView[]) => void;
}

/**
 * The work on a programme, kept as it is done: the order in the browser from visit to visit, the portions on the
 * server. One undo goes through both.
 *
 * @param saved - The portions as the server has them.
 */
export function useProgrammeWork(programme: ProgrammeView, saved: readonly PortionView[]): ProgrammeWork {
  const key = `linstock.order.${programme.id}`;
  const { value, set, undo, redo } = useUndoable<Work>(
    useMemo(() => ({ recipe: readKept(key) ?? startFor(programme), portions: saved }), [key, programme, saved]),
  );
  const { recipe, portions } = value;
  useEffect(() => localStorage.setItem(key, JSON.stringify(recipe)), [key, recipe]);

  const lastSaved = useRef(saved);
  useEffect(() => {
    if (lastSaved.current === portions) return;
    lastSaved.current = portions;
    api.savePortions(programme.id, portions).catch((error: unknown) => {
      toast.error(error instanceof Error ? error.message : 'The portions could not be saved.');
    });
  }, [programme.id, portions]);

  useActKey('mod+z', undo);
  useActKey('mod+shift+z, mod+y', redo);
  return {
    recipe,
    portions,
    changeRecipe: useCallback((next) => set({ ...value, recipe: next }), [set, value]),
    changePortions: useCallback((next) => set({ ...value, portions: next }), [set, value]),
  };
}

/** What was typed last time, as long as it is still a recipe. */
function readKept(key: string): Recipe | null {
  if (typeof localStorage === 'undefined') return null;
  try {
    const parsed = parseWith<Recipe>(recipeSchema, JSON.parse(localStorage.getItem(key) ?? 'null'));
    return parsed.ok ? parsed.value : null;
  } catch {
    return null;
  }
}

function startFor(programme: ProgrammeView): Recipe {
  const hasPicture = programme.video !== null;
  return {
    ...STARTING_RECIPE,
    video: hasPicture ? STARTING_RECIPE.video : null,
    picture: {
      crop: null,
      deinterlace: programme.video?.interlaced ? (programme.video.fieldOrder ?? 'top-first') : null,
      fit: hasPicture && programme.height > 720 ? STARTING_RECIPE.picture.fit : null,
    },
    audio: startingSound(programme),
  };
}

/** One channel stays one channel, at half the rate. */
function startingSound(programme: ProgrammeView): Recipe['audio'] {
  const [track] = programme.audio;
  if (!track || !STARTING_RECIPE.audio) return null;
  return track.channels === 1 ? { ...STARTING_RECIPE.audio, channels: 'mono', kbps: 64 } : STARTING_RECIPE.audio;
}
