import { useState } from 'react';
import type { NamedPlace } from '../../contract/trial.ts';
import { bestUnder, smallestAtLeast, withinTime } from '../../core/scale/best.ts';
import { rateDelta } from '../../core/scale/bjontegaard.ts';
import type { ScaleCurve, ScalePlace } from '../../core/scale/curve.ts';
import { explainBest, explainSmallest, nameCurve } from '../../core/scale/explain.ts';
import { VIDEO } from '../../core/video/codecs.ts';
import { Button } from '../kit/Button.tsx';
import { formatBytes, formatWait } from '../kit/format.ts';
import { triedOf } from './triedOf.ts';

interface Props {
  readonly curves: readonly ScaleCurve[];
  readonly cap: number | null;
  readonly knee: NamedPlace | null;
  readonly results: Readonly<Record<string, number>>;
  readonly onUse: (place: ScalePlace) => void;
}

/** What the curves say in words: the best under the cap, the smallest that is good enough, and where more stops helping. */
export function ScaleFindings({ curves: all, cap, knee, results, onUse }: Props) {
  const curves = triedOf(all);
  const values = curves.flatMap(({ points }) => points.map(({ value }) => value));
  const [wanted, setWanted] = useState<number | null>(null);
  const [least, most] = [Math.min(...values), Math.max(...values)];
  const atLeast = wanted ?? Math.round((least + (most - least) * 0.7) * 10) / 10;
  const best = cap === null ? null : bestUnder(curves, cap);
  const smallest = smallestAtLeast(curves, atLeast);
  const ninth = Object.values(results).reduce((sum, one) => sum + one, 0);
  return (
    <div className="mt-3 max-w-[60rem] space-y-2" data-testid="scale-findings">
      {cap !== null && !best && (
        <p>Nothing that was tried fits into {formatBytes(cap)}; try smaller frames, or allow more bytes.</p>
      )}
      {best && cap !== null && (
        <Finding place={best.place} text={explainBest(best, cap)} onUse={onUse} label="Use this" />
      )}
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <label className="flex items-center gap-2">
          At least
          <input
            type="number"
            step={0.1}
            value={atLeast}
            onChange={(event) => setWanted(Number(event.target.value))}
            className="figure border-rule bg-sheet w-20 rounded border px-1"
          />
          dB
        </label>
        {smallest ? (
          <Finding place={smallest.place} text={explainSmallest(smallest)} onUse={onUse} label="Use it" />
        ) : (
          <span>is more than anything that was tried reaches.</span>
        )}
      </div>
      <InTime curves={curves} cap={cap} onUse={onUse} />
      {knee && <Finding place={knee} text={knee.reason} onUse={onUse} label="Use the knee" />}
      <Savings curves={curves.filter(({ effort }) => !effort)} />
      <Efforts curves={curves} />
      <p className="text-quiet text-sm">
        Decibels compare with the master; 1 dB is usually seen when pictures are flipped, 0.3 dB hardly ever, and
        numbers do not replace looking.{' '}
        {ninth === 0
          ? 'Error bars rest on the spread of the excerpts; no forecast was proved here yet.'
          : `Error bars rest on ${ninth} finished ${ninth === 1 ? 'rendition' : 'renditions'}.`}
      </p>
    </div>
  );
}

/** The best that is encoded in so many minutes, under the cap where there is one. */
function InTime({ curves, cap, onUse }: Pick<Props, 'curves' | 'cap' | 'onUse'>) {
  const times = curves.flatMap(({ workSeconds }) => (workSeconds === null ? [] : [workSeconds]));
  const [wanted, setWanted] = useState<number | null>(null);
  if (times.length === 0) return null;
  const minutes = wanted ?? Math.max(1, Math.round(((Math.min(...times) + Math.max(...times)) / 2 / 60) * 10) / 10);
  const best = bestUnder(withinTime(curves, minutes * 60), cap ?? Infinity);
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1" data-testid="in-time">
      <label className="flex items-center gap-2">
        Encoded in at most
        <input
          type="number"
          min={0.1}
          step={0.5}
          value={minutes}
          onChange={(event) => setWanted(Number(event.target.value))}
          className="figure border-rule bg-sheet w-20 rounded border px-1"
        />
        min
      </label>
      {best ? (
        <Finding place={best.place} text={`the best is ${nameCurve(best.place)}.`} onUse={onUse} label="Use that" />
      ) : (
        <span>nothing that was tried is ready; the quickest takes {formatWait(Math.min(...times))}.</span>
      )}
    </div>
  );
}

interface FindingProps {
  readonly place: ScalePlace;
  readonly text: string;
  readonly label: string;
  readonly onUse: (place: ScalePlace) => void;
}

function Finding({ place, text, label, onUse }: FindingProps) {
  return (
    <p className="flex flex-wrap items-center gap-x-3">
      <span>{text}</span>
      <span className="figure text-quiet text-sm">
        ≈ {formatBytes(place.bytes)}, {place.value.toFixed(1)} dB
      </span>
      <Button look="quiet" onClick={() => onUse(place)}>
        {label}
      </Button>
    </p>
  );
}

/** What another effort saves at the same codec and frame size, and how much more or less work it is. */
function Efforts({ curves }: { readonly curves: readonly ScaleCurve[] }) {
  return curves
    .filter(({ effort }) => effort !== undefined)
    .map((curve) => {
      const { codec, width, effort, workSeconds } = curve;
      const own = curves.find((one) => one.codec === codec && one.width === width && !one.effort);
      const saved = own && rateDelta(own, curve);
      if (!saved) return null;
      const times = own.workSeconds !== null && workSeconds !== null ? workSeconds / own.workSeconds : null;
      return (
        <p key={effort} className="text-sm" data-testid="effort-saves">
          {nameCurve(curve)}, takes <span className="figure">{Math.abs(saved.delta * 100).toFixed(0)}</span> %{' '}
          {saved.delta < 0 ? 'less' : 'more'} than at the order’s effort for the same quality, from{' '}
          {saved.overlap[0].toFixed(1)} to {saved.overlap[1].toFixed(1)} dB
          {times === null ? '' : `, in ${times.toFixed(1)} times the time`}.
        </p>
      );
    });
}

/** What each other codec saves against the first at the same frame size. */
function Savings({ curves }: { readonly curves: readonly ScaleCurve[] }) {
  const found = curves.flatMap((curve, index) => {
    const reference = curves.slice(0, index).find(({ width, codec }) => width === curve.width && codec !== curve.codec);
    const delta = reference && rateDelta(reference, curve);
    return delta && reference ? [{ reference, curve, delta }] : [];
  });
  if (found.length === 0) return null;
  return (
    <ul className="text-sm">
      {found.map(({ reference, curve, delta: { delta, overlap } }) => (
        <li key={nameCurve(curve)}>
          {nameCurve(curve)} takes <span className="figure">{Math.abs(delta * 100).toFixed(0)}</span> %{' '}
          {delta < 0 ? 'less' : 'more'} than {VIDEO[reference.codec].name} for the same quality, from{' '}
          {overlap[0].toFixed(1)} to {overlap[1].toFixed(1)} dB.
        </li>
      ))}
    </ul>
  );
}
