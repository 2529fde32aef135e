import dynamic from 'next/dynamic';
import { useState } from 'react';
import type { ProgrammeView } from '../../contract/views.ts';
import type { Ceiling } from '../../core/brief/ceilings.ts';
import type { Portion } from '../../core/programme/facts.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import type { ScalePlace } from '../../core/scale/curve.ts';
import { recipeAt } from '../../core/scale/grid.ts';
import { toStep } from '../../core/video/qualityStep.ts';
import { RATED } from '../../core/video/codecs.ts';
import type { Player } from '../player/usePlayer.ts';
import { Notice } from '../kit/Notice.tsx';
import { Excerpts } from './Excerpts.tsx';
import { GridLine } from './GridLine.tsx';
import { OwnExcerpts } from './OwnExcerpts.tsx';
import { ScaleFindings } from './ScaleFindings.tsx';
import { ScaleTable } from './ScaleTable.tsx';
import { TriedPicture } from './TriedPicture.tsx';
import { TrialStanding } from './TrialStanding.tsx';
import { useTrialWork } from './useTrialWork.ts';

/** The chart's package is large and not needed for the first look at a page. */
const TriedScale = dynamic(() => import('./TriedScale.tsx').then((module) => module.TriedScale), {
  ssr: false,
  loading: () => <div className="h-80" />,
});

interface Props {
  readonly programme: ProgrammeView;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
  readonly portion: Portion | null;
  /** Of the order; null where it has none. */
  readonly cap: number | null;
  /** Of the receiver, if it is for one. */
  readonly ceilings: readonly Ceiling[];
  readonly player: Pick<Player, 'timeline' | 'seek' | 'frame'>;
}

/** Before the whole is encoded: how quality goes with size on this programme, measured on excerpts of it. */
export function TrialSection({ programme, recipe, change, portion, cap, ceilings, player }: Props) {
  const [seen, setSeen] = useState<ScalePlace | null>(null);
  const work = useTrialWork(programme, recipe, portion);
  const { latest, scale, plan, error, isRated, measure } = work;
  const isUnderway = latest?.state === 'waiting' || latest?.state === 'running';
  const use = (place: ScalePlace) => {
    const quality = toStep(RATED[place.codec].quality, place.quality);
    change(recipeAt(recipe, place, quality));
  };
  const curves = scale?.curves ?? [];
  const hasCurves = curves.some(({ points }) => points.some(({ kind }) => kind === 'tried'));
  if (!programme.video) return null;
  return (
    <section aria-labelledby="trials-heading" className="mt-8" data-testid="trials">
      <h2 id="trials-heading" className="mb-1 text-lg font-semibold">
        Try it first
      </h2>
      {!isRated && (
        <p className="text-quiet">This order has no quality or rate to choose, so there is nothing to try.</p>
      )}
      {isRated && error && <Notice kind="note">{error.message}</Notice>}
      {isRated && plan && (
        <GridLine
          programme={programme}
          recipe={recipe}
          plan={plan}
          share={work.share}
          onShare={work.setShare}
          onGrid={work.setGrid}
          isUnderway={isUnderway}
          onAsk={work.ask}
        />
      )}
      {isRated && plan && (
        <OwnExcerpts timeline={player.timeline} frame={player.frame} pinned={work.pinned} onPin={work.setPinned} />
      )}
      {latest && <TrialStanding trial={latest} onStop={() => work.stop(latest.id)} />}
      {latest?.excerpts && (
        <Excerpts
          timeline={player.timeline}
          excerpts={latest.excerpts}
          pinned={work.pinned}
          dropped={work.dropped}
          onPin={work.setPinned}
          onDrop={work.setDropped}
          onPlace={player.seek}
        />
      )}
      {hasCurves && scale && (
        <>
          <ScaleFindings curves={curves} cap={cap} knee={scale.knee} results={scale.results} onUse={use} />
          <TriedScale
            curves={curves}
            measure={measure}
            onMeasure={work.setMeasure}
            cap={cap}
            ceilings={ceilings}
            recipe={recipe}
            change={change}
            onUse={use}
            name={programme.name}
          />
          {seen && (
            <TriedPicture programme={programme} place={seen} frame={player.frame} onClose={() => setSeen(null)} />
          )}
          <ScaleTable curves={curves} onUse={use} onSee={setSeen} programmeId={programme.id} measure={measure} />
        </>
      )}
    </section>
  );
}
