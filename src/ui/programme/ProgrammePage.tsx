'use client';

import Link from 'next/link';
import { useCallback, useState } from 'react';
import type { PortionView, ProgrammeView, RenditionView } from '../../contract/views.ts';
import type { Fix } from '../../core/advice/advisory.ts';
import type { Portion } from '../../core/programme/facts.ts';
import { copyingRecipe, encodedSound, STARTING_RECIPE } from '../../core/rate/recipe.ts';
import { useAnalysis, usePortions, useProgramme, useRenditions, useRetryAnalysis } from '../hooks/queries.ts';
import { useIsInBrowser } from '../hooks/useIsInBrowser.ts';
import { useProgrammeWork } from '../hooks/useProgrammeWork.ts';
import { Notice } from '../kit/Notice.tsx';
import { PlayerView } from '../player/PlayerView.tsx';
import { usePlayer } from '../player/usePlayer.ts';
import { useTransportKeys } from '../player/useTransportKeys.ts';
import { PortionSection } from '../portion/PortionSection.tsx';
import { addPortion, changePortion } from '../portion/spans.ts';
import { RenditionSection } from '../renditions/RenditionSection.tsx';
import { StripsSection } from '../strips/StripsSection.tsx';
import { Advisories } from './Advisories.tsx';
import { OrderSection } from './OrderSection.tsx';
import { WhatItIs } from './WhatItIs.tsx';

/** One programme, reading downward in the order of the work. */
export function ProgrammePage({ id }: { readonly id: string }) {
  const { data: programme, error } = useProgramme(id);
  const { data: renditions = [] } = useRenditions();
  const { data: portions } = usePortions(id);
  // What was typed last time is kept in the browser, so the order is drawn there only.
  const isInBrowser = useIsInBrowser();
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
  if (!programme || !portions || !isInBrowser)
    return <main className="text-quiet mx-auto max-w-6xl px-5 py-5">Reading the programme …</main>;
  const own = renditions.filter((rendition) => rendition.programmeId === id);
  return <Work programme={programme} saved={portions} renditions={own} />;
}

interface WorkProps {
  readonly programme: ProgrammeView;
  readonly saved: readonly PortionView[];
  readonly renditions: readonly RenditionView[];
}

function Work({ programme, saved, renditions }: WorkProps) {
  const { data: analysis } = useAnalysis(programme.id);
  const retry = useRetryAnalysis(programme.id);
  const work = useProgrammeWork(programme, saved);
  const { recipe, changeRecipe, portions, changePortions } = work;
  const player = usePlayer(programme);
  const [selected, setSelected] = useState<string | null>(saved[0]?.id ?? null);
  useTransportKeys(player, analysis?.sceneChanges ?? []);
  const current = portions.find(({ id }) => id === selected) ?? portions[0] ?? null;

  const putPortion = useCallback(
    ({ inFrame, outFrame }: Portion, id: string | null) => {
      if (id !== null) return changePortions(changePortion(portions, id, { inFrame, outFrame }));
      const [next, added] = addPortion(portions, { inFrame, outFrame });
      changePortions(next);
      setSelected(added.id);
    },
    [portions, changePortions],
  );
  const applyFix = (fix: Fix) => {
    if (fix.kind === 'portion') return putPortion(fix.portion, current?.id ?? null);
    const { picture } = recipe;
    if (fix.kind === 'crop') return changeRecipe({ ...recipe, picture: { ...picture, crop: fix.crop } });
    if (fix.kind === 'deinterlace')
      return changeRecipe({ ...recipe, picture: { ...picture, deinterlace: fix.fields } });
    if (fix.kind === 'copy') return changeRecipe(copyingRecipe(programme, recipe));
    const audio = encodedSound(recipe) ?? STARTING_RECIPE.audio;
    changeRecipe({ ...recipe, audio: { ...audio, channels: fix.channels, kbps: fix.kbps } });
  };
  return (
    <main className="mx-auto max-w-6xl px-5 py-5">
      <WhatItIs programme={programme} analysis={analysis} />
      <div className="mt-4 grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-6">
        <PlayerView programme={programme} player={player} />
        <Advisories analysis={analysis} onFix={applyFix} onRetry={() => retry.mutate()} />
      </div>
      <StripsSection
        programme={programme}
        analysis={analysis}
        player={player}
        portions={portions}
        selected={current?.id ?? null}
        onSelect={setSelected}
        onPortion={putPortion}
      />
      {programme.video && (
        <PortionSection
          programme={programme}
          analysis={analysis}
          player={player}
          portions={portions}
          selected={current?.id ?? null}
          onSelect={setSelected}
          onChange={changePortions}
        />
      )}
      <OrderSection
        programme={programme}
        renditions={renditions}
        recipe={recipe}
        change={changeRecipe}
        portions={portions}
        current={current}
      />
      <RenditionSection programme={programme} renditions={renditions} />
    </main>
  );
}
