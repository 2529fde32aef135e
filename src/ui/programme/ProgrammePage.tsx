'use client';

import Link from 'next/link';
import { Volume2 } from 'lucide-react';
import type { ProgrammeView } from '../../contract/views.ts';
import { frameOfProgramme } from '../hooks/api.ts';
import { useProgramme, useRenditions } from '../hooks/queries.ts';
import { useIsInBrowser } from '../hooks/useIsInBrowser.ts';
import { Notice } from '../kit/Notice.tsx';
import { RenditionSection } from '../renditions/RenditionSection.tsx';
import { describeProgramme, listFacts } from './describeProgramme.ts';
import { OrderSection } from './OrderSection.tsx';

/** One programme, reading downward in the order of the work. */
export function ProgrammePage({ id }: { readonly id: string }) {
  const { data: programme, error } = useProgramme(id);
  const { data: renditions = [] } = useRenditions();
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
  if (!programme || !isInBrowser)
    return <main className="text-quiet mx-auto max-w-6xl px-5 py-5">Reading the programme …</main>;
  const own = renditions.filter((rendition) => rendition.programmeId === id);
  return (
    <main className="mx-auto max-w-6xl px-5 py-5">
      <WhatItIs programme={programme} />
      <OrderSection programme={programme} renditions={own} />
      <RenditionSection programme={programme} renditions={own} />
    </main>
  );
}

function WhatItIs({ programme }: { readonly programme: ProgrammeView }) {
  return (
    <section className="flex gap-6">
      {programme.video ? (
        <img
          src={frameOfProgramme(programme.id, Math.floor(programme.frameCount * 0.25), 480)}
          alt="A frame from the middle of the programme"
          className="h-[135px] w-[240px] shrink-0 bg-black object-contain"
        />
      ) : (
        <div className="bg-sunk text-quiet flex h-[135px] w-[240px] shrink-0 items-center justify-center">
          <Volume2 aria-hidden="true" size={40} />
        </div>
      )}
      <div className="min-w-0">
        <h1 className="text-2xl font-semibold">{programme.name}</h1>
        <p className="max-w-[44rem]">{describeProgramme(programme)}</p>
        <details className="mt-1">
          <summary className="text-quiet hover:text-ink cursor-pointer">All facts</summary>
          <dl className="mt-2 grid grid-cols-[7rem_1fr] gap-x-4 gap-y-0.5">
            {listFacts(programme).map(([name, value]) => (
              <div key={name} className="contents">
                <dt className="text-quiet">{name}</dt>
                <dd className="figure break-all">{value}</dd>
              </div>
            ))}
          </dl>
        </details>
      </div>
    </section>
  );
}
