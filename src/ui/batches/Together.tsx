import { useState } from 'react';
import type { BatchPlan, BatchPlanRow } from '../../contract/batch.ts';
import { count } from '../kit/count.ts';
import { formatBytes, parseSize } from '../kit/format.ts';

interface FieldProps {
  readonly cap: number | null;
  readonly onCap: (cap: number | null) => void;
}

/** One cap for all files together; empty leaves each to its recipe. */
export function TogetherField({ cap, onCap }: FieldProps) {
  const [text, setText] = useState(cap === null ? '' : formatBytes(cap));
  const bytes = parseSize(text);
  const isWrong = text.trim() !== '' && bytes === null;
  const take = () => onCap(text.trim() === '' ? null : (bytes ?? cap));
  return (
    <p className="mb-3 flex flex-wrap items-baseline gap-x-2">
      <label htmlFor="together">All of them together in at most</label>
      <input
        id="together"
        value={text}
        placeholder="500 MB"
        aria-invalid={isWrong}
        aria-describedby="together-hint"
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => event.key === 'Enter' && take()}
        className="figure border-rule bg-paper w-28 rounded border px-2 py-0.5"
      />
      <span id="together-hint" className={isWrong ? 'text-wrong text-sm' : 'text-quiet text-sm'}>
        {isWrong
          ? 'Type a size, such as 500 MB or 1.2 GB.'
          : 'Shared out so that the worst of them is as good as it can be; empty leaves each to its recipe.'}
      </span>
    </p>
  );
}

interface BarProps {
  readonly plan: BatchPlan;
  readonly together: NonNullable<BatchPlan['together']>;
}

/** How the cap is shared out, to scale. */
export function TogetherBar({ plan, together }: BarProps) {
  const made = plan.rows.filter((row) => row.state === 'ready' && !row.isLeftOut);
  if (together.by === null) {
    return (
      <p className="mb-3" data-testid="together">
        What {count(together.unknown, 'file takes', 'files take')} is not measured yet; measure them, then the cap is
        shared out.
      </p>
    );
  }
  const sum = made.reduce((total, row) => total + bytesOf(row), 0);
  return (
    <figure className="mb-4 max-w-[60rem]" data-testid="together">
      <div className="bg-sunk flex h-6 gap-px overflow-hidden rounded-sm" role="list" aria-label="Shares of the cap">
        {made.map((row) => (
          <span
            key={`${row.programmeId} ${row.recipe.name}`}
            role="listitem"
            title={nameShare(row)}
            aria-label={nameShare(row)}
            className="bg-measured h-full min-w-px"
            style={{ width: `${(100 * bytesOf(row)) / together.bytes}%` }}
          />
        ))}
      </div>
      <figcaption className="text-sm">
        <span className="figure">
          {formatBytes(sum)} of {formatBytes(together.bytes)}
        </span>
        {together.by === 'measured'
          ? ': all as good as each other, by the decibels that trials measured.'
          : ': all at the same quality of their codec. Trials of each would share it out by decibels.'}
        {sum < together.bytes * 0.98 && ' More would show nothing: all are at their finest sensible quality.'}
      </figcaption>
    </figure>
  );
}

function bytesOf({ expected, recipe: { video } }: BatchPlanRow): number {
  const rate = video !== null && 'rate' in video ? video.rate : null;
  return rate?.mode === 'size' ? rate.bytes : (expected?.likely ?? 0);
}

function nameShare(row: BatchPlanRow): string {
  return `${row.programmeName}, ${row.recipe.name}: ${formatBytes(bytesOf(row))}`;
}
