'use client';

import { useQueries, type UseQueryResult } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { isNotSounded, soundingOf, type SoundingRequest, type SoundingStanding } from '../../contract/sounding.ts';
import type { ProgrammeView } from '../../contract/views.ts';
import { isSamePortion, type Portion } from '../../core/programme/facts.ts';
import { copiesPart } from '../../core/plan/copiedPortion.ts';
import { planRendition, type PlanOutcome } from '../../core/plan/planRendition.ts';
import type { Found } from '../../core/plan/planRequest.ts';
import { ratedVideo, type Recipe } from '../../core/recipe/recipe.ts';
import type { Sounding } from '../../core/sounding/sounding.ts';
import { SOUND_CODECS } from '../../core/sound/codecs.ts';
import { RATED_CODECS, VIDEO_CODECS } from '../../core/video/codecs.ts';
import { soundingQuery, useCameOut, useCuts, useSystem, useWorkingHardware } from './queries.ts';
import { triedQuery } from './trialQueries.ts';
import { useClock } from './useClock.ts';
import { useSettled } from './useSettled.ts';

/** Where the measurement stands that an estimate rests on. */
export type Measurement =
  | { readonly state: 'none' }
  | { readonly state: 'known' }
  | { readonly state: 'underway'; readonly ahead: number }
  | { readonly state: 'failed'; readonly message: string };

/** What an order would make of one portion. */
export interface OrderPlan {
  /** null is the whole programme. */
  readonly portion: Portion | null;
  readonly outcome: PlanOutcome;
  readonly measurement: Measurement;
}

const EVERY_CODEC = [...VIDEO_CODECS, ...SOUND_CODECS];

/** A portion is measured once it stays where it is. */
const SETTLE_MS = 600;

/**
 * What an order would make of each portion, planned live by the server's own computation.
 *
 * @param portions - null for the whole programme; the same list as long as nothing changes.
 * @param found - What the analysis found; null while it is not known.
 */
export function useOrderPlans(
  programme: ProgrammeView,
  recipe: Recipe,
  portions: readonly (Portion | null)[],
  found: Found | null,
): readonly OrderPlan[] {
  const { data: system } = useSystem();
  const hardware = useWorkingHardware(ratedVideo(recipe)?.hardware === true);
  const clock = useClock(programme);
  const { data: cuts } = useCuts(
    programme.id,
    portions.some((portion) => copiesPart(programme, recipe, portion)),
  );
  const { data: learned } = useCameOut(programme.id);
  const settled = useSettled(portions, SETTLE_MS);
  const wanted = useMemo(
    () => settled.map((portion) => soundingWanted(programme, recipe, portion)),
    [programme, recipe, settled],
  );
  const tried = useTried(programme, recipe, settled);
  const combine = useCallback(
    (results: UseQueryResult<Sounding | SoundingStanding | null>[]) =>
      portions.map((portion): OrderPlan => {
        const place = settled.findIndex((one) => isSamePortion(one, portion));
        const result = results[place];
        const asked = result?.data;
        const sounding = tried[place] ?? (asked && 'points' in asked ? asked : null);
        const outcome = planRendition({
          facts: programme,
          clock,
          recipe,
          portion: portion && { inFrame: portion.inFrame, outFrame: portion.outFrame },
          // Until the server has answered nothing is called missing.
          encoders: system ? [...system.engine.encoders, ...system.engine.soundEncoders] : EVERY_CODEC,
          hardware: hardware ?? RATED_CODECS,
          sounding,
          cuts: cuts?.frames ?? null,
          cameOut: learned?.cameOut ?? [],
          found,
        });
        const isAsked = soundingWanted(programme, recipe, portion) !== null;
        return { portion, outcome, measurement: tried[place] ? { state: 'known' } : measurementOf(isAsked, result) };
      }),
    [portions, settled, programme, clock, recipe, system, hardware, cuts, learned, found, tried],
  );
  return useQueries({ queries: wanted.map((one) => soundingQuery(programme.id, one)), combine });
}

const NOTHING_TRIED: readonly null[] = [];

/** What trials say of the order, for each portion. */
function useTried(
  programme: ProgrammeView,
  recipe: Recipe,
  portions: readonly (Portion | null)[],
): readonly (Sounding | null)[] {
  const combine = useCallback((results: UseQueryResult<{ readonly tried: Sounding | null }>[]) => {
    const found = results.map(({ data }) => data?.tried ?? null);
    return found.some((one) => one !== null) ? found : NOTHING_TRIED;
  }, []);
  return useQueries({ queries: portions.map((portion) => triedQuery(programme.id, recipe, portion)), combine });
}

/** @returns null where nothing is measured: sound only, a copy, or a picture made far larger than it is. */
function soundingWanted(programme: ProgrammeView, recipe: Recipe, portion: Portion | null): SoundingRequest | null {
  const wanted = soundingOf(programme, recipe, portion);
  if (!wanted || !programme.video || programme.master !== 'there') return null;
  return isNotSounded(programme, programme.video, wanted) ? null : wanted;
}

function measurementOf(
  isAsked: boolean,
  result: UseQueryResult<Sounding | SoundingStanding | null> | undefined,
): Measurement {
  if (!isAsked) return { state: 'none' };
  if (result?.error) return { state: 'failed', message: result.error.message };
  const found = result?.data;
  // What lies beyond the first qualities is still to come.
  if (found && 'points' in found)
    return found.between && !found.isEnd ? { state: 'underway', ahead: 0 } : { state: 'known' };
  return { state: 'underway', ahead: found?.ahead ?? 0 };
}
