import { useState } from 'react';
import {
  LEVELS,
  type BatchPlan,
  type BatchPlanRow,
  type Levelled,
  type SharedOut,
  type Together,
} from '../../contract/batch.ts';
import { count } from '../kit/count.ts';
import { formatBytes, parseSize } from '../kit/format.ts';

interface FieldProps {
  readonly together: Together | null;
  readonly onTogether: (together: Together | null) => void;
}

/** One cap for all files together, or how good each is to be; empty leaves each to its recipe. */
export function TogetherField({ together, onTogether }: FieldProps) {
  const [text, setText] = useState(writeTogether(together));
  const read = readTogether(text);
  const isWrong = text.trim() !== '' && read === null;
  const take = () => !isWrong && onTogether(read);
  return (
    <p className="mb-3 flex flex-wrap items-baseline gap-x-2">
      <label htmlFor="together">All of them together</label>
      <input
        id="together"
        value={text}
        placeholder="500 MB or 15 dB"
        aria-invalid={isWrong}
        aria-describedby="together-hint"
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => event.key === 'Enter' && take()}
        className="figure border-rule bg-paper w-40 rounded border px-2 py-0.5"
      />
      <span id="together-hint" className={isWrong ? 'text-wrong text-sm' : 'text-quiet text-sm'}>
        {isWrong ? 'Type a size, such as 500 MB, or how good each is to be, such as 15 dB.' : hintOf(read)}
      </span>
    </p>
  );
}

function hintOf(together: Together | null): string {
  if (together === null) return 'A size that all share, or how good each is to be; empty leaves each to its recipe.';
  return together.bytes === undefined
    ? 'Each as small as it can be at so much SSIM, by what trials of it measured.'
    : 'In at most so much, shared out so that the worst of them is as good as it can be.';
}

function writeTogether(together: Together | null): string {
  if (together === null) return '';
  return together.bytes === undefined ? `${together.decibels} dB` : formatBytes(together.bytes);
}

/** A size, or decibels; null for anything else. */
function readTogether(text: string): Together | null {
  const decibels = Number(/^\s*(\d+(?:[.,]\d+)?)\s*dB\s*$/i.exec(text)?.[1]?.replace(',', '.') ?? NaN);
  if (decibels >= LEVELS.least && decibels <= LEVELS.most) return { decibels };
  const bytes = parseSize(text);
  return bytes === null ? null : { bytes };
}

interface OfBar<Kind> {
  readonly plan: BatchPlan;
  readonly together: Kind;
}

type BarProps = OfBar<SharedOut | Levelled>;

/** How the cap is shared out, to scale, or how good all come out. */
export function TogetherBar({ plan, together }: BarProps) {
  return 'decibels' in together ? (
    <LevelLine plan={plan} together={together} />
  ) : (
    <SharesBar plan={plan} together={together} />
  );
}

function LevelLine({ plan, together: { decibels, unknown, short } }: OfBar<Levelled>) {
  const sum = plan.expected.likely;
  return (
    <p className="mb-3" data-testid="together">
      {unknown > 0 &&
        `How good ${count(unknown, 'file comes', 'files come')} out is not measured yet; measure them, and each is tried on excerpts.`}
      {unknown === 0 && (
        <>
          <span className="figure">≈ {formatBytes(sum)}</span> in all, each no worse than{' '}
          <span className="figure">{decibels} dB</span> as trials measured it.
          {short > 0 &&
            ` ${count(short, 'file is', 'files are')} not so good at the finest that was tried, and taken at that.`}
        </>
      )}
    </p>
  );
}

function SharesBar({ plan, together }: OfBar<SharedOut>) {
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
