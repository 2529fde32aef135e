'use client';

import Link from 'next/link';
import { useState } from 'react';
import { LEFT_EVERY_MS, useBatches } from '../hooks/batchQueries.ts';
import { useEnded, useQueue } from '../hooks/queries.ts';
import { countAll } from '../hooks/queueCounts.ts';
import { MOST_ROWS } from '../../contract/list.ts';
import { MOST_OF_LINE, type WorkLeft } from '../../contract/queue.ts';
import type { RenditionSummary } from '../../contract/views.ts';
import { Button } from '../kit/Button.tsx';
import { formatBytes, formatWait } from '../kit/format.ts';
import { MiddleCut } from '../kit/MiddleCut.tsx';
import { Notice } from '../kit/Notice.tsx';
import { sayLeft, sayWhenDone } from '../kit/sayWhenDone.ts';
import { QueueControls } from './QueueControls.tsx';
import { QueueRows } from './QueueRows.tsx';

/** What runs, what waits, the batches, and how the rest ended. */
export function QueuePage() {
  const [shown, setShown] = useState(MOST_ROWS);
  const { data: queue, error } = useQueue(LEFT_EVERY_MS, shown);
  const { data: past, hasNextPage, fetchNextPage, isFetchingNextPage } = useEnded();
  const active = queue?.rows ?? [];
  const hidden = queue ? Math.max(0, countAll(queue) - active.length) : 0;
  const ended = past?.pages.flatMap(({ rows }) => rows) ?? [];
  const count = (state: RenditionSummary['state']) => past?.pages[0]?.counts[state] ?? 0;
  return (
    <main className="mx-auto max-w-6xl px-5 py-5 2xl:max-w-[90rem]">
      <h1 className="mb-3 text-2xl font-semibold">Queue</h1>
      {error && (
        <Notice kind="wrong" role="alert">
          {error.message}
        </Notice>
      )}
      {queue && <QueueControls queue={queue} />}
      {queue?.left && <Left left={queue.left} />}
      {queue && active.length === 0 && (
        <p className="text-quiet py-4">
          Nothing is running and nothing waits. Order a rendition on a programme’s page, or choose programmes in the
          list and render them together.
        </p>
      )}
      <QueueRows rows={active} />
      {hidden > 0 && (
        <p className="text-quiet flex items-center gap-3 py-2">
          <span>
            <span className="figure">{hidden.toLocaleString('en')}</span> more wait behind these.
          </span>
          {shown < MOST_OF_LINE && <Button onClick={() => setShown(shown + MOST_ROWS)}>Show the next of them</Button>}
        </p>
      )}
      <Batches />
      {ended.length > 0 && (
        <section className="mt-6">
          <h2 className="text-lg font-semibold">Ended</h2>
          <p className="text-quiet mb-1 text-sm">
            {count('done')} done, {count('failed')} failed, {count('stopped')} stopped
          </p>
          <ul>
            {ended.map((rendition) => (
              <li key={rendition.id} className="border-rule border-b py-1.5">
                <p className="flex min-w-0 gap-3">
                  <Link
                    href={`/programmes/${rendition.programmeId}`}
                    className="min-w-0 font-semibold underline-offset-4 hover:underline"
                  >
                    <MiddleCut text={rendition.name} />
                  </Link>
                  <span className="text-quiet truncate">{rendition.sentence}</span>
                </p>
                <Ending rendition={rendition} />
              </li>
            ))}
          </ul>
          {hasNextPage && (
            <Button className="mt-2" disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
              Show earlier ones
            </Button>
          )}
        </section>
      )}
    </main>
  );
}

/** How long it will be until the queue is empty. */
function Left({ left }: { readonly left: WorkLeft }) {
  const when = sayWhenDone(left);
  return (
    <p className="mb-2" data-testid="queue-left">
      Left: <span className="figure">{sayLeft(left)}</span>
      {when && `, ${when}`}.
    </p>
  );
}

const WHEN = { dateStyle: 'medium', timeStyle: 'short', hour12: false } as const;

/** What was asked for in one go, the newest first. */
function Batches() {
  const { data: batches = [] } = useBatches();
  if (batches.length === 0) return null;
  return (
    <section className="mt-6">
      <h2 className="mb-1 text-lg font-semibold">Batches</h2>
      <ul>
        {batches.map((batch) => (
          <li key={batch.id} className="border-rule flex flex-wrap gap-x-4 border-b py-1.5">
            <Link href={`/batches/${batch.id}`} className="font-semibold underline-offset-4 hover:underline">
              {batch.name}
            </Link>
            <span className="text-quiet">{new Date(batch.askedAt).toLocaleString('en', WHEN)}</span>
            <span className="ml-auto">
              <span className="figure">{batch.made}</span> of <span className="figure">{batch.asked}</span> made
              {batch.failed > 0 && <span className="text-wrong">, ✕ {batch.failed} failed</span>}
              {batch.stopped + batch.leftOut > 0 && `, ${batch.stopped + batch.leftOut} stopped or left out`}
              {batch.waiting > 0 && `, ${batch.waiting} to come`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function passed(checks: number): string {
  return checks === 1 ? 'its check passed' : `all ${checks} checks passed`;
}

function Ending({ rendition }: { readonly rendition: RenditionSummary }) {
  if (rendition.state === 'failed') return <p className="text-wrong">✕ Failed: {rendition.problem?.message}</p>;
  if (rendition.state === 'stopped') return <p className="text-quiet">■ Stopped; nothing of it was kept.</p>;
  const seconds = (rendition.encodeSeconds ?? 0) + (rendition.checkSeconds ?? 0);
  return (
    <p>
      <span className="text-measured">✓ Done and verified</span>:{' '}
      <span className="figure">{formatBytes(rendition.bytes ?? 0)}</span> in {formatWait(seconds)},{' '}
      {passed(rendition.checksPassed)}.
    </p>
  );
}
