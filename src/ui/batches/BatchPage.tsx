'use client';

import { Download, Printer, RotateCcw, Square } from 'lucide-react';
import Link from 'next/link';
import { memo } from 'react';
import type { BatchRowView, BatchView } from '../../contract/batch.ts';
import { saySsim } from '../../core/quality/sayQuality.ts';
import { useBatch, useBatchAgain, useBatchStop } from '../hooks/batchQueries.ts';
import { isUnderway } from '../hooks/api.ts';
import { useIsQueueOpen } from '../hooks/queries.ts';
import { Figure } from '../budget/Figure.tsx';
import { Button } from '../kit/Button.tsx';
import { formatBytes, formatLength, formatRatio, formatWait } from '../kit/format.ts';
import { sayLeft, sayWhenDone } from '../kit/sayWhenDone.ts';
import { FigureCell, WHERE_WIDE } from '../kit/FigureCell.tsx';
import { MiddleCut } from '../kit/MiddleCut.tsx';
import { Notice } from '../kit/Notice.tsx';

/** What was asked for in one go, and what became of each: nothing is missing in the morning. */
export function BatchPage({ id }: { readonly id: string }) {
  const { data: batch, error } = useBatch(id);
  if (error) {
    return (
      <main className="mx-auto max-w-6xl px-5 py-5">
        <Notice kind="wrong" role="alert">
          {error.message}
        </Notice>
      </main>
    );
  }
  if (!batch) return <main className="text-quiet mx-auto max-w-6xl px-5 py-5">Counting …</main>;
  return <Account batch={batch} />;
}

function Account({ batch }: { readonly batch: BatchView }) {
  const again = useBatchAgain(batch.id);
  const stop = useBatchStop(batch.id);
  const { asked, made, failed, stopped, leftOut, waiting, rows } = batch;
  const isQueueOpen = useIsQueueOpen();
  return (
    <main className="mx-auto max-w-6xl px-5 py-5 2xl:max-w-[90rem]">
      <div className="mb-2 flex flex-wrap items-baseline gap-4">
        <h1 className="text-2xl font-semibold">{batch.name}</h1>
        <span className="text-quiet">asked for {new Date(batch.askedAt).toLocaleString('en', WHEN)}</span>
        <span className="ml-auto flex gap-2 print:hidden">
          {waiting > 0 && (
            <Button disabled={stop.isPending} onClick={() => stop.mutate()}>
              <Square aria-hidden="true" size={16} /> Stop the {waiting} to come
            </Button>
          )}
          {waiting === 0 && batch.again > 0 && (
            <Button look="main" disabled={again.isPending} onClick={() => again.mutate(null)}>
              <RotateCcw aria-hidden="true" size={16} /> Try the {batch.again} again
            </Button>
          )}
          <Button onClick={() => window.print()}>
            <Printer aria-hidden="true" size={16} /> Print
          </Button>
          <a href={`/api/batches/${batch.id}/report.csv`} className={LINK}>
            <Download aria-hidden="true" size={16} /> CSV
          </a>
          <a href={`/api/batches/${batch.id}`} download={`${batch.name}.json`} className={LINK}>
            <Download aria-hidden="true" size={16} /> JSON
          </a>
        </span>
      </div>
      <p className="mb-3 text-lg" data-testid="account">
        <span className="figure">{asked}</span> asked = <span className="figure">{made}</span> made +{' '}
        <span className="figure">{failed}</span> failed + <span className="figure">{stopped}</span> stopped +{' '}
        <span className="figure">{leftOut}</span> left out
        {waiting > 0 && (
          <>
            {' '}
            + <span className="figure">{waiting}</span> still to come
          </>
        )}
      </p>
      <Sums batch={batch} />
      <table className="w-full border-collapse">
        <thead>
          <tr className="border-rule text-quiet border-b text-left text-sm">
            <th className="py-1 font-normal">Programme</th>
            <th className="px-2 font-normal">As</th>
            <th className={`px-2 text-right font-normal ${WHERE_WIDE}`}>Before</th>
            <th className="px-2 text-right font-normal">After</th>
            <th className="px-2 text-right font-normal">Share</th>
            <th className={`px-2 text-right font-normal ${WHERE_WIDE}`}>Took</th>
            <th className={`px-2 text-right font-normal ${WHERE_WIDE}`}>SSIM</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, index) => (
            <Row
              key={index}
              row={row}
              place={index}
              isQueueOpen={isQueueOpen}
              onAgain={again.isPending ? null : again.mutate}
            />
          ))}
        </tbody>
      </table>
    </main>
  );
}

const WHEN = { dateStyle: 'medium', timeStyle: 'short', hour12: false } as const;
const LINK = 'border-rule bg-sheet hover:bg-sunk inline-flex items-center gap-2 rounded border px-3 py-1';

/** Before and after, of what was made. */
function Sums({ batch }: { readonly batch: BatchView }) {
  const made = batch.rows.filter(({ state }) => state === 'done');
  const { left } = batch;
  if (made.length === 0 && !left) return null;
  const sum = (of: (row: BatchRowView) => number | null) => made.reduce((total, row) => total + (of(row) ?? 0), 0);
  const [before, after, work] = [sum((row) => row.sourceBytes), sum((row) => row.bytes), sum((row) => row.workSeconds)];
  return (
    <dl className="mb-4 flex max-w-[60rem] flex-wrap justify-between gap-x-6 gap-y-2">
      {made.length > 0 && (
        <>
          <Figure name="Made of" value={formatBytes(before)} detail={formatLength(sum((row) => row.seconds))} />
          <Figure name="Came to" value={formatBytes(after)} detail={before > 0 ? formatRatio(before, after) : ''} />
          <Figure
            name="Work"
            value={formatWait(work)}
            detail={batch.promisedSeconds === null ? '' : `${formatWait(batch.promisedSeconds)} were foreseen`}
          />
        </>
      )}
      {left && <Figure name="Left about" value={sayLeft(left)} detail={sayWhenDone(left)} testId="batch-left" />}
    </dl>
  );
}

const STATES = {
  asked: 'being ordered',
  planned: 'waits',
  queued: 'waits',
  running: 'is made',
  checking: 'is checked',
  done: '✓ made',
  failed: '✕ failed',
  stopped: '■ stopped',
  'left-out': '– left out',
} as const;

interface RowProps {
  readonly row: BatchRowView;
  readonly isQueueOpen: boolean;
  /** Among all, from 0. */
  readonly place: number;
  /** null while something is being asked for. */
  readonly onAgain: ((place: number) => void) | null;
}

const MISSING: readonly BatchRowView['state'][] = ['failed', 'stopped', 'left-out'];

/** Of hundreds only those are drawn again of which something is new. */
const Row = memo(function Row({ row, place, isQueueOpen, onAgain }: RowProps) {
  const isMade = isUnderway(row.state);
  const isStill = isMade && (row.paused || !isQueueOpen);
  const mayNotGo = row.state === 'queued' && row.paused;
  return (
    <tr className="border-rule border-b align-top" data-testid="batch-row" data-state={row.state}>
      <td className="max-w-64 py-1.5">
        <Link href={`/programmes/${row.programmeId}`} className="underline-offset-4 hover:underline">
          <MiddleCut text={row.programmeName} className="font-semibold" />
        </Link>
        <span className={row.state === 'failed' ? 'text-wrong text-sm' : 'text-quiet text-sm'}>
          {isStill ? 'stands still' : STATES[row.state]}
          {mayNotGo && ' until it may go on'}
          {isMade && `, ${Math.round(row.fraction * 100)} %`}
        </span>
      </td>
      <td className="px-2 py-1.5">
        {row.recipeName}
        <span className="text-quiet block text-sm">{row.sentence}</span>
        {row.reason && <span className="block text-sm">{row.reason}</span>}
        {MISSING.includes(row.state) && (
          <Button
            className="mt-1 text-sm print:hidden"
            disabled={onAgain === null}
            onClick={() => onAgain?.(place)}
            aria-label={`Try it again: ${row.programmeName}, ${row.recipeName}`}
          >
            Try it again
          </Button>
        )}
      </td>
      <FigureCell isExtra>{row.sourceBytes === null ? '–' : formatBytes(row.sourceBytes)}</FigureCell>
      <FigureCell>{row.bytes === null ? '–' : formatBytes(row.bytes)}</FigureCell>
      <FigureCell>{row.bytes === null || !row.sourceBytes ? '–' : formatRatio(row.sourceBytes, row.bytes)}</FigureCell>
      <FigureCell isExtra>{row.workSeconds === null ? '–' : formatWait(row.workSeconds)}</FigureCell>
      <FigureCell isExtra>{row.ssim === null ? '–' : saySsim(row.ssim)}</FigureCell>
    </tr>
  );
});
