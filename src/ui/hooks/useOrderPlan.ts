'use client';

import { useMemo } from 'react';
import type { ProgrammeView } from '../../contract/views.ts';
import type { Portion } from '../../core/programme/facts.ts';
import { planRendition, type PlanOutcome } from '../../core/rate/planRendition.ts';
import { encodedVideo, renditionSize, type Recipe } from '../../core/rate/recipe.ts';
import { useSounding, useSystem } from './queries.ts';
import { useClock } from './useClock.ts';

export interface OrderPlan {
  readonly outcome: PlanOutcome;
  /** True while the programme is being sounded at this frame size, so that estimates are still to come. */
  readonly isSounding: boolean;
}

/** What an order would make of a portion, planned live by the server's own computation. */
export function useOrderPlan(programme: ProgrammeView, recipe: Recipe, portion: Portion | null): OrderPlan {
  const { data: system } = useSystem();
  const clock = useClock(programme);
  const video = encodedVideo(recipe);
  const size = video && renditionSize(programme, recipe.picture);
  const sounding = useSounding(programme.id, size && video ? video.codec : null, size, recipe.picture);
  const outcome = useMemo(
    () =>
      planRendition({
        facts: programme,
        clock,
        recipe,
        portion,
        // Until the server has answered nothing is called missing.
        encoders: system?.engine.encoders ?? ['h264', 'hevc'],
        sounding: sounding.data ?? null,
      }),
    [programme, clock, recipe, portion, system, sounding.data],
  );
  return { outcome, isSounding: size !== null && !sounding.data && !sounding.isError };
}
