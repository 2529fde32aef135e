'use client';

import Link from 'next/link';
import { useMemo } from 'react';
import { toast } from 'sonner';
import type { ProgrammeView, RenditionSummary } from '../../contract/views.ts';
import type { Fix } from '../../core/advice/advisory.ts';
import { applyFix, withdrawFix, type OrderState } from '../../core/advice/applyFix.ts';
import { GestureProvider } from '../hooks/gesture.ts';
import {
  useAnalysis,
  usePortions,
  useProgramme,
  useRenditionsOf,
  useRetryAnalysis,
  useSavedOrder,
} from '../hooks/queries.ts';
import { useProgrammeWork, type SavedWork } from '../hooks/useProgrammeWork.ts';
import { useBrief } from '../hooks/shelfQueries.ts';
import { Notice } from '../kit/Notice.tsx';
import { PlayerView } from '../player/PlayerView.tsx';
import { usePlayer } from '../player/usePlayer.ts';
import { useTransportKeys } from '../player/useTransportKeys.ts';
import { PortionSection } from '../portion/PortionSection.tsx';
import { RenditionSection } from '../renditions/RenditionSection.tsx';
import { StripsSection } from '../strips/StripsSection.tsx';
import { TrialSection } from '../trials/TrialSection.tsx';
import { capOf, shownCeilings } from './orderSums.ts';
import { Advisories } from './Advisories.tsx';
import { OrderSection } from './OrderSection.tsx';
import { useFixKeys } from './useFixKeys.ts';
import { usePortionChoice } from './usePortionChoice.ts';
import { useProgrammePlans } from './useProgrammePlans.ts';
import { WhatItIs } from './WhatItIs.tsx';

/** One programme, reading downward in the order of the work. */
export function ProgrammePage({ id }: { readonly id: string }) {
  const { data: programme, error } = useProgramme(id);
  const { data: renditions = [] } = useRenditionsOf(id);
  const { data: portions } = usePortions(id);
  const { data: order } = useSavedOrder(id);
  const saved = useMemo(() => portions && order && { ...order, portions }, [portions, order]);
  if (error) {
    return (
      <main className="mx-auto max-w-6xl px-5 py-5">
        <Notice kind="wrong" role="alert">
          {error.message}{' '}
          <Link href="/" className="underline">
            All programmes
          </Link>
        </Notice>
      </main>
    );
  }
  if (!programme || !saved)
    return <main className="text-quiet mx-auto max-w-6xl px-5 py-5">Reading the programme …</main>;
  return <Work programme={programme} saved={saved} renditions={renditions} />;
}

interface WorkProps {
  readonly programme: ProgrammeView;
  readonly saved: SavedWork;
  readonly renditions: readonly RenditionSummary[];
}

function Work({ programme, saved, renditions }: WorkProps) {
  const { data: analysis } = useAnalysis(programme.id);
  const retry = useRetryAnalysis(programme.id);
  const { recipe, briefId, portions, change, gesture, undo } = useProgrammeWork(programme, saved, analysis?.scan);
  const brief = useBrief(briefId);
  const player = usePlayer(programme);
  const { current, select, put: putPortion, changeAll } = usePortionChoice(portions, change);
  useTransportKeys(player, analysis?.sceneChanges ?? []);
  const order: OrderState = { recipe, portion: current };
  /** The order after a fix; a portion that is no longer meant goes, a new one takes its place. */
  const put = (next: OrderState) => {
    if (next.portion === order.portion) return change({ recipe: next.recipe });
    if (next.portion === null) return change({ recipe: next.recipe, portions: [] });
    putPortion(next.portion, current?.id ?? null);
  };
  const { advisories, ...planned } = useProgrammePlans(programme, recipe, portions, current, analysis);
  const fix = (one: Fix) => {
    put(applyFix(programme, one, order));
    toast(`Done: ${one.label}`, { id: 'fix', action: { label: 'Undo', onClick: undo } });
  };
  const numberOf = useFixKeys(programme, advisories, order, fix);
  return (
    <GestureProvider value={gesture}>
      <main className="mx-auto max-w-6xl px-5 pt-5 pb-20 2xl:max-w-[90rem]">
        <WhatItIs programme={programme} analysis={analysis} />
        <div className="mt-4 grid grid-cols-1 gap-6 md:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
          <PlayerView programme={programme} player={player} />
          <Advisories
            analysis={analysis}
            timeline={player.timeline}
            numberOf={numberOf}
            onFix={fix}
            onWithdraw={(one) => put(withdrawFix(programme, one, order))}
            onPlace={player.seek}
            onRetry={() => retry.mutate()}
          />
        </div>
        <StripsSection
          programme={programme}
          analysis={analysis}
          player={player}
          portions={portions}
          selected={current?.id ?? null}
          onSelect={select}
          onPortion={putPortion}
        />
        {programme.video && (
          <PortionSection
            programme={programme}
            analysis={analysis}
            player={player}
            portions={portions}
            selected={current?.id ?? null}
            onSelect={select}
            onChange={changeAll}
          />
        )}
        <OrderSection
          {...{ programme, renditions, recipe, brief }}
          change={(next) => change({ recipe: next })}
          onBrief={(taken, bent) => change({ briefId: taken?.id ?? null, recipe: bent })}
          {...planned}
          frame={player.frame}
          numberOf={numberOf}
          onFix={fix}
        />
        <TrialSection
          programme={programme}
          recipe={recipe}
          change={(next) => change({ recipe: next })}
          portion={current}
          cap={capOf(recipe)}
          ceilings={shownCeilings(brief, planned.shown)}
          player={player}
        />
        <RenditionSection programme={programme} renditions={renditions} />
      </main>
    </GestureProvider>
  );
}
