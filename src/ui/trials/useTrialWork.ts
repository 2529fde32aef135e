import { useMemo, useState } from 'react';
import type { Measure } from '../../core/quality/closerLook.ts';
import type { ProgrammeView } from '../../contract/views.ts';
import type { Portion } from '../../core/programme/facts.ts';
import { ratedVideo, type Recipe } from '../../core/recipe/recipe.ts';
import { USUAL_SHARE_TRIED, type GridCurve } from '../../core/scale/grid.ts';
import { useScale, useTrialActs, useTrialPlan, useTrials } from '../hooks/trialQueries.ts';
import { useSettled } from '../hooks/useSettled.ts';

/** The order settles before it is asked what trying it would take. */
const SETTLE_MS = 500;

/** What is to be tried of a programme, what that would take, and what is known of it. */
export function useTrialWork(programme: ProgrammeView, recipe: Recipe, portion: Portion | null) {
  const [measure, setMeasure] = useState<Measure>('ssim');
  const [grid, setGrid] = useState<readonly GridCurve[] | null>(null);
  const [share, setShare] = useState(USUAL_SHARE_TRIED);
  const [dropped, setDropped] = useState<readonly Portion[]>([]);
  const [pinned, setPinned] = useState<readonly Portion[]>([]);
  const { data: trials = [] } = useTrials(programme.id);
  const { data: scale } = useScale(programme.id, measure);
  const acts = useTrialActs(programme.id);
  const span = useMemo(() => portion && { inFrame: portion.inFrame, outFrame: portion.outFrame }, [portion]);
  const wanted = useMemo(
    () => ({
      programmeId: programme.id,
      recipe,
      portion: span,
      share,
      pinned: [...pinned],
      dropped: [...dropped],
      ...(grid ? { grid } : {}),
    }),
    [programme.id, recipe, span, share, pinned, dropped, grid],
  );
  const isRated = ratedVideo(recipe) !== null && programme.master === 'there';
  const { data: plan, error } = useTrialPlan(useSettled(isRated ? wanted : null, SETTLE_MS));
  return {
    ...{ measure, setMeasure, setGrid, share, setShare, dropped, setDropped, pinned, setPinned },
    ...{ latest: trials[0], scale, plan, error, isRated },
    ask: () => acts.ask.mutate(wanted),
    stop: (id: string) => acts.stop.mutate(id),
  };
}
