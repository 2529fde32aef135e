'use client';

import { useCallback, useEffect, useMemo, useRef } from 'react';
import { toast } from 'sonner';
import type { AnalysisView, PortionView, ProgrammeView } from '../../contract/views.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { startingOrder } from '../../core/recipe/suitRecipe.ts';
import { api } from './api.ts';
import { useDefaultRecipe } from './shelfQueries.ts';
import { useUndoable, type Gesture } from './useUndoable.ts';
import { useActKey } from './useWorkKey.ts';

/** What a person decides about a programme: how it is encoded, and which portions of it. */
export interface Work {
  readonly recipe: Recipe;
  /** The brief of the receiver that it is for; null where it is for nobody in particular. */
  readonly briefId: string | null;
  /** In their order; none means the whole programme. */
  readonly portions: readonly PortionView[];
}

/** As the server has it; no recipe while nobody changed the order line. */
export type SavedWork = Omit<Work, 'recipe'> & { readonly recipe: Recipe | null };

export interface ProgrammeWork extends Work {
  readonly change: (work: Partial<Work>) => void;
  readonly gesture: Gesture;
  readonly undo: () => void;
}

/** Changes made in quick succession are saved as one. */
const SAVE_AFTER_MS = 250;

/**
 * The work on a programme, kept on the server as it is done, so that every page and every visit has the same. One undo
 * goes through all of it.
 */
export function useProgrammeWork(
  programme: ProgrammeView,
  saved: SavedWork,
  scan: AnalysisView['scan'] | undefined,
): ProgrammeWork {
  const base = useDefaultRecipe(programme.path)?.recipe;
  const start = useMemo(() => startingOrder(programme, scan ?? null, base), [programme, scan, base]);
  const history = useUndoable<Work>({ ...saved, recipe: saved.recipe ?? start });
  const { value, isHeld, set, replace, begin, end, cancel, undo, redo } = history;
  const { recipe, briefId, portions } = value;
  const kept = useRef<Work>(value);

  // Another page changed it.
  const latest = useRef(saved);
  useEffect(() => {
    if (isHeld || same(latest.current, saved)) return;
    latest.current = saved;
    const wanted = { ...saved, recipe: saved.recipe ?? start };
    if (same(wanted, kept.current)) return;
    kept.current = wanted;
    replace(wanted);
  }, [saved, start, isHeld, replace]);

  // What an order begins with is known better now; one that was changed stays as it is.
  const begun = useRef(start);
  useEffect(() => {
    const isUntouched = saved.recipe === null && recipe === begun.current;
    begun.current = start;
    if (!isUntouched || recipe === start) return;
    // Portions that are not saved yet stay to be saved.
    kept.current = { ...kept.current, recipe: start };
    replace({ recipe: start, briefId, portions });
  }, [saved.recipe, start, recipe, briefId, portions, replace]);

  const unsaved = useRef<(() => void) | null>(null);
  useEffect(() => {
    unsaved.current = null;
    const before = kept.current;
    const isOrderKept = before.recipe === recipe && before.briefId === briefId;
    if (isOrderKept && before.portions === portions) return;
    const save = () => {
      unsaved.current = null;
      kept.current = { recipe, briefId, portions };
      Promise.all([
        isOrderKept ? null : api.keepOrder(programme.id, { recipe, briefId }),
        before.portions === portions ? null : api.savePortions(programme.id, portions),
      ]).catch((error: unknown) => {
        toast.error(error instanceof Error ? error.message : 'The order line could not be kept.');
      });
    };
    unsaved.current = save;
    const timer = setTimeout(save, SAVE_AFTER_MS);
    return () => clearTimeout(timer);
  }, [programme.id, recipe, briefId, portions]);

  // What was changed last is not lost to whoever leaves at once.
  useEffect(() => {
    const leave = () => unsaved.current?.();
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, []);

  useActKey('mod+z', undo);
  useActKey('mod+shift+z, mod+y', redo);
  return {
    recipe,
    briefId,
    portions,
    change: useCallback((part) => set({ ...value, ...part }), [set, value]),
    gesture: useMemo(() => ({ begin, end, cancel }), [begin, end, cancel]),
    undo,
  };
}

function same(a: SavedWork, b: SavedWork): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}
