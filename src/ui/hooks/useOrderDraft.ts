'use client';

import { useEffect, useMemo } from 'react';
import { recipeSchema } from '../../contract/recipe.ts';
import { parseWith } from '../../contract/strictObject.ts';
import type { ProgrammeView } from '../../contract/views.ts';
import { fitFrameSize } from '../../core/geometry/frameSize.ts';
import { planRendition, type PlanOutcome } from '../../core/rate/planRendition.ts';
import { STARTING_RECIPE, type Recipe } from '../../core/rate/recipe.ts';
import { useSounding, useSystem } from './queries.ts';
import { useUndoable } from './useUndoable.ts';

export interface OrderDraft {
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly outcome: PlanOutcome;
  /** True while the programme is being sounded at this frame size, so that estimates are still to come. */
  readonly isSounding: boolean;
}

/** The order being written for a programme: kept from visit to visit, planned live, undoable. */
export function useOrderDraft(programme: ProgrammeView): OrderDraft {
  const key = `linstock.order.${programme.id}`;
  const {
    value: recipe,
    set,
    undo,
    redo,
  } = useUndoable(useMemo(() => readKept(key) ?? startFor(programme), [key, programme]));
  useEffect(() => localStorage.setItem(key, JSON.stringify(recipe)), [key, recipe]);
  const { data: system } = useSystem();
  const size =
    programme.video && recipe.video ? fitFrameSize(programme, programme.video.pixelAspect, recipe.picture.fit) : null;
  const sounding = useSounding(programme.id, size && recipe.video ? recipe.video.codec : null, size);
  const outcome = useMemo(
    () =>
      planRendition({
        facts: programme,
        recipe,
        portion: null,
        // Until the server has answered nothing is called missing.
        encoders: system?.engine.encoders ?? ['h264', 'hevc'],
        sounding: sounding.data ?? null,
      }),
    [programme, recipe, system, sounding.data],
  );
  return { recipe, change: set, undo, redo, outcome, isSounding: size !== null && !sounding.data && !sounding.isError };
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
    picture: { fit: hasPicture && programme.height > 720 ? STARTING_RECIPE.picture.fit : null },
    audio: startingSound(programme),
  };
}

/** One channel stays one channel, at half the rate. */
function startingSound(programme: ProgrammeView): Recipe['audio'] {
  const [track] = programme.audio;
  if (!track || !STARTING_RECIPE.audio) return null;
  return track.channels === 1 ? { ...STARTING_RECIPE.audio, channels: 'mono', kbps: 64 } : STARTING_RECIPE.audio;
}
