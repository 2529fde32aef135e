'use client';

import Link from 'next/link';
import { useState } from 'react';
import { LEDGER_ORDERS, type LedgerRow } from '../../contract/ledger.ts';
import { saySsim } from '../../core/quality/sayQuality.ts';
import { useSettled } from '../hooks/useSettled.ts';
import { useLedger, type LedgerQuestion } from '../hooks/ledgerQueries.ts';
import { Button } from '../kit/Button.tsx';
import { count } from '../kit/count.ts';
import { formatBytes, formatRatio, formatWait } from '../kit/format.ts';
import { FigureCell, WHERE_WIDE } from '../kit/FigureCell.tsx';
import { MiddleCut } from '../kit/MiddleCut.tsx';
import { Notice } from '../kit/Notice.tsx';
import { SearchField } from '../kit/SearchField.tsx';
import { LedgerActs } from './LedgerActs.tsx';

const ORDERS: Readonly<Record<(typeof LEDGER_ORDERS)[number], string>> = {
  newest: 'the newest first',
  largest: 'the largest first',
  smallest: 'the smallest first',
  best: 'the best first',
  worst: 'the worst first',
  slowest: 'the slowest first',
};

const STATES = {
  all: 'everything',
  done: 'what was made',
  failed: 'what failed',
  stopped: 'what was stopped',
} as const;

/** Typing is followed once it pauses. */
const SETTLE_MS = 200;

/** Everything ever made: from what, by which recipe, when, how big, how good, how long it took, and where it is now. */
export function LedgerPage() {
  const [question, setQuestion] = useState<LedgerQuestion>({ words: '', state: null, order: 'newest' });
  const settled = useSettled(question, SETTLE_MS);
  const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useLedger(settled);
  const [marked, setMarked] = useState<readonly string[]>([]);
  const rows = data?.pages.flatMap((page) => page.rows) ?? [];
  const sums = data?.pages[0]?.sums;
  const mark = (id: string) =>
    setMarked(marked.includes(id) ? marked.filter((one) => one !== id) : [...marked, id].slice(-2));
  return (
    <main className="mx-auto max-w-6xl px-5 py-5 2xl:max-w-[90rem]">
      <div className="mb-3 flex flex-wrap items-baseline gap-4">
        <h1 className="text-2xl font-semibold">Ledger</h1>
        {sums && (
          <span className="text-quiet" data-testid="ledger-sums">
            {count(sums.count, 'entry', 'entries')}, {formatBytes(sums.bytes)}, {formatWait(sums.workSeconds)} of work
          </span>
        )}
        <Question question={question} onChange={setQuestion} />
      </div>
      {error && (
        <Notice kind="wrong" role="alert">
          {error.message}
        </Notice>
      )}
      {marked.length === 2 && (
        <CompareTwo
          rows={marked.flatMap((id) => rows.find((row) => row.id === id) ?? [])}
          onLeave={() => setMarked([])}
        />
      )}
      {sums?.count === 0 && <p className="text-quiet py-6">Nothing was made yet that is called so.</p>}
      {rows.length > 0 && <Entries rows={rows} marked={marked} onMark={mark} />}
      {hasNextPage && (
        <Button className="mt-2" disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
          Show earlier ones
        </Button>
      )}
    </main>
  );
}

interface QuestionProps {
  readonly question: LedgerQuestion;
  readonly onChange: (question: LedgerQuestion) => void;
}

/** What is looked for, and in which order it is shown. */
function Question({ question, onChange }: QuestionProps) {
  const select = 'border-rule bg-sheet rounded border px-2 py-1';
  return (
    <span className="ml-auto flex flex-wrap items-center gap-2">
      <SearchField
        label="Find in the ledger"
        placeholder="Name, recipe, codec or batch"
        words={question.words}
        onWords={(words) => onChange({ ...question, words })}
        className="w-64"
      />
      <select
        aria-label="What is shown"
        className={select}
        value={question.state ?? 'all'}
        onChange={({ target: { value } }) =>
          onChange({ ...question, state: value === 'all' ? null : (value as LedgerQuestion['state']) })
        }
      >
        {Object.entries(STATES).map(([value, label]) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </select>
      <select
        aria-label="Order"
        className={select}
        value={question.order}
        onChange={({ target: { value } }) => onChange({ ...question, order: value as LedgerQuestion['order'] })}
      >
        {LEDGER_ORDERS.map((order) => (
          <option key={order} value={order}>
            {ORDERS[order]}
          </option>
        ))}
      </select>
    </span>
  );
}

const HEADS = ['Size', 'Share', 'SSIM', 'Took', 'When'] as const;

interface EntriesProps {
  readonly rows: readonly LedgerRow[];
  readonly marked: readonly string[];
  readonly onMark: (id: string) => void;
}

function Entries({ rows, marked, onMark }: EntriesProps) {
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr className="border-rule text-quiet border-b text-left text-sm">
          <th className="w-8 py-1 font-normal">
            <span className="sr-only">Compare</span>
          </th>
          <th className="font-normal">File</th>
          <th className={`px-2 font-normal ${WHERE_WIDE}`}>Of</th>
          {HEADS.map((head) => (
            <th key={head} className={`px-2 text-right font-normal ${head === 'Size' ? '' : WHERE_WIDE}`}>
              {head}
            </th>
          ))}
          <th>
            <span className="sr-only">What can be done</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <Entry key={row.id} row={row} isMarked={marked.includes(row.id)} onMark={() => onMark(row.id)} />
        ))}
      </tbody>
    </table>
  );
}

const WHEN = { dateStyle: 'medium', timeStyle: 'short', hour12: false } as const;

const FILES: Readonly<Record<LedgerRow['file'], string>> = {
  there: '',
  changed: 'changed since by something else',
  gone: 'not where it was put any more',
  none: 'no file is kept',
};

interface EntryProps {
  readonly row: LedgerRow;
  readonly isMarked: boolean;
  readonly onMark: () => void;
}

function Entry({ row, isMarked, onMark }: EntryProps) {
  const { state, bytes, sourceBytes, workSeconds, finishedAt, file, problem } = row;
  const isMade = state === 'done';
  return (
    <tr className="border-rule border-b align-top" data-testid="ledger-row" data-state={state}>
      <td className="py-1.5 pl-1">
        {isMade && <input type="checkbox" aria-label={`Compare ${row.name}`} checked={isMarked} onChange={onMark} />}
      </td>
      <td className="max-w-72 py-1.5">
        <MiddleCut text={row.name} className="font-semibold" />
        <span className="text-quiet block text-sm">
          {row.recipeName}: {row.sentence}
        </span>
        {isMade && file !== 'there' && <span className="text-wrong block text-sm">✕ {FILES[file]}</span>}
        {state === 'failed' && <span className="text-wrong block text-sm">✕ {problem}</span>}
        {state === 'stopped' && <span className="text-quiet block text-sm">■ Stopped</span>}
        {row.batch && (
          <Link href={`/batches/${row.batch.id}`} className="text-quiet block text-sm underline underline-offset-4">
            {row.batch.name}
          </Link>
        )}
      </td>
      <td className={`max-w-48 px-2 py-1.5 ${WHERE_WIDE}`}>
        {row.isForgotten ? (
          <span className="text-quiet">{row.programmeName}, forgotten</span>
        ) : (
          <Link href={`/programmes/${row.programmeId}`} className="underline-offset-4 hover:underline">
            <MiddleCut text={row.programmeName} />
          </Link>
        )}
      </td>
      <FigureCell>{bytes === null || !isMade ? '–' : formatBytes(bytes)}</FigureCell>
      <FigureCell isExtra>{bytes && sourceBytes && isMade ? formatRatio(sourceBytes, bytes) : '–'}</FigureCell>
      <FigureCell isExtra>{sayMeasured(row)}</FigureCell>
      <FigureCell isExtra>{workSeconds === null ? '–' : formatWait(workSeconds)}</FigureCell>
      <FigureCell isExtra>{finishedAt ? new Date(finishedAt).toLocaleString('en', WHEN) : '–'}</FigureCell>
      <td className="py-1 pl-2 text-right whitespace-nowrap max-md:w-24 max-md:whitespace-normal">
        <LedgerActs row={row} />
      </td>
    </tr>
  );
}

function sayMeasured({ ssim }: LedgerRow): string {
  return ssim === null ? '–' : saySsim(ssim);
}

/** Two that were marked, number against number. */
function CompareTwo({ rows, onLeave }: { readonly rows: readonly LedgerRow[]; readonly onLeave: () => void }) {
  const [one, other] = rows;
  if (!one || !other) return null;
  const lines: readonly (readonly [string, string, string])[] = [
    ['By', one.recipeName, other.recipeName],
    ['Size', formatBytes(one.bytes ?? 0), formatBytes(other.bytes ?? 0)],
    ['SSIM', sayMeasured(one), sayMeasured(other)],
    ['Took', formatWait(one.workSeconds ?? 0), formatWait(other.workSeconds ?? 0)],
  ];
  return (
    <section className="bg-sheet border-rule mb-4 border p-3" aria-label="Compare two" data-testid="compare-two">
      <table>
        <thead>
          <tr className="text-left">
            <th />
            {[one, other].map((row) => (
              <th key={row.id} className="max-w-80 px-4 font-semibold">
                <Link href={`/desk/${row.id}`} className="underline-offset-4 hover:underline">
                  {row.name}
                </Link>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.map(([name, left, right]) => (
            <tr key={name}>
              <td className="text-quiet">{name}</td>
              <td className="figure px-4">{left}</td>
              <td className="figure px-4">{right}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Button look="quiet" onClick={onLeave}>
        Leave them
      </Button>
    </section>
  );
}
