'use client';

import { useState } from 'react';
import { pictureOf, type EncodePlan } from '../../core/plan/encodePlan.ts';
import type { Ceiling } from '../../core/brief/ceilings.ts';
import { bytesPerHour, uploadSeconds } from '../../core/budget/projections.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { withRate } from '../../core/recipe/withRate.ts';
import { averageRate, bitsPerSecond } from '../../core/units.ts';
import { useSettled } from '../hooks/useSettled.ts';
import {
  formatBytes,
  formatExactBytes,
  formatRate,
  formatSeconds,
  formatWait,
  parseRate,
  roundToRead,
} from '../kit/format.ts';
import { DensityFigure } from './DensityFigure.tsx';
import { TimeFigure } from './TimeFigure.tsx';
import { Figure } from './Figure.tsx';
import { BarHandle } from './BarHandle.tsx';
import { partHandles, type PartHandle } from './partHandles.ts';
import { useLineSpeed } from './useLineSpeed.ts';

interface Props {
  readonly programmeId: string;
  readonly plan: EncodePlan;
  /** Why the size is not known, where it is not. */
  readonly unknown: string;
  /** What the portion takes was measured. */
  readonly isMeasured: boolean;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
  /** Of the receiver, if it is for one. */
  readonly ceilings: readonly Ceiling[];
}

/** A pause in typing after which the bar is drawn to a scale of its own again. */
const SCALE_SETTLES_MS = 1500;

const PARTS = [
  { key: 'video', label: 'Picture', className: 'bg-measured' },
  { key: 'audio', label: 'Sound', className: 'bg-sound' },
  { key: 'container', label: 'Container', className: 'bg-container' },
] as const;

const BINDS: Readonly<Record<EncodePlan['budget']['binds'], string>> = {
  source: 'The master’s own streams decide.',
  cap: 'The cap decides.',
  rate: 'The average rate decides.',
  quality: 'The quality decides; the size follows from the picture.',
  'finest-quality': 'The finest sensible quality decides; the cap leaves room to spare.',
  sound: 'The sound’s rate decides.',
};

/** One bar, to scale: picture, sound, container and what is left, against the cap. */
export function BudgetBar({ programmeId, plan, unknown, isMeasured, recipe, change, ceilings }: Props) {
  const { budget } = plan;
  const { cap, split, expected, headroom } = budget;
  const [heldScale, setHeldScale] = useState<number | null>(null);
  const wholeScale = niceAbove((cap ?? expected?.high ?? split.audio + split.container) * 1.15);
  // While a cap is typed the scale stays where it was, as long as the cap is on it and not lost in a corner.
  const settledScale = useSettled(wholeScale, SCALE_SETTLES_MS);
  const keeps = cap !== null && cap <= settledScale && cap >= settledScale / 20;
  const scale = heldScale ?? (keeps ? settledScale : wholeScale);
  // Sound by itself, drawn over the whole bar, would be read as the whole file.
  const isKnown = split.video !== null || pictureOf(plan) === null;
  // While something is dragged the scale stands still, or it would run away under the pointer.
  const hold = (isHeld: boolean) => setHeldScale(isHeld ? scale : null);
  const percent = (value: number) => `${Math.min(100, (100 * value) / scale)}%`;
  return (
    <section aria-label="Budget" className="mt-4 max-w-[60rem]" data-testid="budget">
      <div className="relative h-9">
        <div className="bg-sunk absolute inset-x-0 top-1.5 flex h-6 overflow-hidden rounded-sm">
          {!isKnown && <span className="text-quiet px-2 text-sm leading-6">The picture’s share: {unknown}</span>}
          {PARTS.filter(() => isKnown).map(({ key, label, className }) => {
            const size = split[key] ?? 0;
            return (
              <div
                key={key}
                title={`${label}: ${formatExactBytes(size)}`}
                className={className}
                style={{ width: percent(size), minWidth: size > 0 ? 2 : 0 }}
              />
            );
          })}
        </div>
        {expected && cap === null && (
          <div
            className="border-ink/60 absolute top-1.5 h-6 border-x-2 bg-[repeating-linear-gradient(135deg,transparent_0_4px,var(--ink)_4px_5px)] opacity-40"
            style={{ left: percent(expected.low), width: `calc(${percent(expected.high)} - ${percent(expected.low)})` }}
            title={`Between ${formatBytes(expected.low)} and ${formatBytes(expected.high)}`}
          />
        )}
        <CeilingMarks ceilings={ceilings} scale={scale} />
        {(isKnown ? partHandles(recipe, plan) : []).map((handle) => (
          <PartEdge key={handle.part} handle={handle} scale={scale} onChange={change} onHold={hold} />
        ))}
        {cap !== null && (
          <CapHandle
            cap={cap}
            scale={scale}
            onCap={(bytes) => change(withRate(recipe, { mode: 'size', bytes }))}
            onHold={hold}
          />
        )}
      </div>
      <ul className="mt-1 flex flex-wrap gap-x-5 gap-y-1 text-sm">
        {PARTS.map(({ key, label, className }) => (
          <li key={key} className="flex items-center gap-1.5">
            <span aria-hidden="true" className={`size-3 rounded-sm ${className}`} />
            {label} <span className="figure">{split[key] === null ? 'not known yet' : formatBytes(split[key])}</span>
          </li>
        ))}
        {headroom !== null && (
          <li className="flex items-center gap-1.5">
            <span aria-hidden="true" className="border-quiet bg-sunk size-3 rounded-sm border" />
            Left below the cap <span className="figure">{formatBytes(headroom)}</span>
          </li>
        )}
        {ceilings.map((ceiling) => (
          <li key={ceiling.name} className="flex items-center gap-1.5">
            <span aria-hidden="true" className="border-ink h-3.5 border-l border-dashed" />
            {nameCeiling(ceiling)}
          </li>
        ))}
      </ul>
      <Expectation programmeId={programmeId} plan={plan} unknown={unknown} isMeasured={isMeasured} />
    </section>
  );
}

/** Where the receiver's limits lie, as far as the bar reaches. */
function CeilingMarks({ ceilings, scale }: Pick<Props, 'ceilings'> & { readonly scale: number }) {
  return ceilings
    .filter(({ bytes }) => bytes <= scale)
    .map((ceiling) => (
      <div
        key={ceiling.name}
        title={nameCeiling(ceiling)}
        className="border-ink absolute top-0 h-9 border-l border-dashed"
        style={{ left: `${(100 * ceiling.bytes) / scale}%` }}
      />
    ));
}

function nameCeiling({ name, bytes }: Ceiling): string {
  return `The receiver’s ${name}: ${formatBytes(bytes)}`;
}

function Expectation({
  programmeId,
  plan,
  unknown,
  isMeasured,
}: Pick<Props, 'programmeId' | 'plan' | 'unknown' | 'isMeasured'>) {
  const { expected, binds, videoRate, isGuess } = plan.budget;
  const picture = pictureOf(plan);
  const isOnlyCapped = binds === 'cap' && !isMeasured;
  const [line, setLine] = useLineSpeed();
  const perHour = expected && bytesPerHour(expected.likely, plan.span.seconds);
  const range = expected && `${formatBytes(expected.low)} to ${formatBytes(expected.high)}`;
  return (
    <>
      <dl className="mt-3 flex flex-wrap justify-between gap-x-6 gap-y-2">
        <Figure
          name="Expected"
          value={
            expected
              ? `${isOnlyCapped ? 'up to ' : ''}${formatBytes(isOnlyCapped ? expected.high : expected.likely)}`
              : 'unknown'
          }
          detail={isOnlyCapped ? unknown : (range ?? unknown)}
          testId="expected"
        />
        <Figure
          name="Average rate"
          value={expected ? formatRate(averageRate(expected.likely, plan.span.seconds)) : 'unknown'}
          detail={videoRate === null ? '' : `picture ${formatRate(videoRate)}`}
        />
        <Figure name="An hour of it" value={perHour === null ? 'unknown' : formatBytes(perHour)} detail="" />
        <div>
          <dt className="text-quiet text-sm">
            Upload at{' '}
            <input
              aria-label="Line speed in Mb/s"
              value={line}
              onChange={(event) => setLine(event.target.value)}
              className="figure border-rule bg-paper text-ink w-12 rounded border px-1 text-right"
            />{' '}
            Mb/s
          </dt>
          <dd className="figure text-lg">{uploadText(expected?.likely ?? null, line)}</dd>
        </div>
        <DensityFigure plan={plan} />
        <TimeFigure programmeId={programmeId} plan={plan} />
        <Figure
          name="Length"
          value={formatSeconds(plan.span.seconds)}
          detail={picture ? `${picture.out.frameCount.toLocaleString('en')} frames` : 'sound only'}
        />
      </dl>
      <p className="text-quiet mt-1 text-sm">
        {isGuess && `As pictures usually come out in this codec; what this one takes: ${unknown}`}
        {isOnlyCapped && `At most the cap; whether the picture needs as much: ${unknown}`}
        {!isGuess && !isOnlyCapped && BINDS[binds]}
      </p>
    </>
  );
}

interface CapHandleProps {
  readonly cap: number;
  readonly scale: number;
  readonly onCap: (bytes: number) => void;
  readonly onHold: (isHeld: boolean) => void;
}

/** The cap as a line: a hundredth a step, a tenth with Page keys. */
function CapHandle({ cap, scale, onCap, onHold }: CapHandleProps) {
  const settle = (value: number) => onCap(roundToRead(Math.max(scale / 200, Math.min(scale, value))));
  return (
    <BarHandle
      label="Cap"
      value={cap}
      range={[0, scale]}
      valueText={formatBytes(cap)}
      at={cap / scale}
      onDrag={(share) => settle(share * scale)}
      onStep={(steps) => settle(cap * (1 + steps / 100))}
      onHold={onHold}
      className="top-0 h-9 w-4"
    >
      <span aria-hidden="true" className="bg-ember h-full w-0.5" />
      <span className="figure bg-paper text-ember absolute top-0 left-full ml-0.5 rounded px-1 text-sm whitespace-nowrap">
        {formatBytes(cap)}
      </span>
    </BarHandle>
  );
}

interface PartEdgeProps {
  readonly handle: PartHandle;
  readonly scale: number;
  readonly onChange: (recipe: Recipe) => void;
  readonly onHold: (isHeld: boolean) => void;
}

/** The edge of a part, held by a grip above the bar for the picture and below it for the sound, which is often thin. */
function PartEdge({ handle, scale, onChange, onHold }: PartEdgeProps) {
  const isPicture = handle.part === 'picture';
  return (
    <BarHandle
      label={isPicture ? 'Rate of the picture' : 'Rate of the sound'}
      value={handle.kbps}
      range={handle.range}
      valueText={`${handle.kbps.toLocaleString('en')} kb/s`}
      at={handle.at / scale}
      onDrag={(share) => onChange(handle.moveTo(share * scale))}
      onStep={(steps) => onChange(handle.step(steps))}
      onHold={onHold}
      className={isPicture ? 'top-0 h-5 w-4 items-start' : 'bottom-0 h-5 w-4 items-end'}
    >
      <span
        aria-hidden="true"
        className={`bg-ink border-paper h-3 w-2 border ${isPicture ? 'rounded-b-full' : 'rounded-t-full'}`}
      />
    </BarHandle>
  );
}

function uploadText(size: number | null, line: string): string {
  const speed = readSpeed(line);
  if (speed === null) return 'type a speed such as 20';
  return size === null ? 'unknown' : formatWait(uploadSeconds(size, bitsPerSecond(speed)));
}

/** Bare numbers are Mb/s here. */
function readSpeed(line: string): number | null {
  const speed = /^\s*[\d.,]+\s*$/.test(line) ? parseRate(`${line}M`) : parseRate(line);
  return speed !== null && speed > 0 ? speed : null;
}

function niceAbove(value: number): number {
  const unit = 10 ** Math.floor(Math.log10(Math.max(10, value)));
  const step = [1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10].find((candidate) => candidate * unit >= value) ?? 10;
  return step * unit;
}
