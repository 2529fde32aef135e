'use client';

import { useRef, useState } from 'react';
import { CartesianGrid, ErrorBar, ResponsiveContainer, Scatter, ScatterChart, Tooltip } from 'recharts';
import { toast } from 'sonner';
import type { Ceiling } from '../../core/brief/ceilings.ts';
import { MEASURES, type Measure } from '../../core/quality/closerLook.ts';
import { MEASURE_WORDS } from '../../core/quality/sayQuality.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { withRate } from '../../core/recipe/withRate.ts';
import { envelopeOf } from '../../core/scale/best.ts';
import type { ScaleCurve, ScalePlace, ScalePoint } from '../../core/scale/curve.ts';
import { nameCurve } from '../../core/scale/explain.ts';
import { Button } from '../kit/Button.tsx';
import { formatBytes, roundToRead } from '../kit/format.ts';
import { CapLine, CeilingLine, DASHES, QualityAxis, SHAPES, SizeAxis, SYMBOLS } from '../scale/axes.tsx';
import { evenTicks, qualityTicks } from '../scale/evenTicks.ts';
import { CapHandle } from './CapHandle.tsx';
import { savePicture } from './savePicture.ts';
import { triedOf } from './triedOf.ts';

interface Props {
  readonly curves: readonly ScaleCurve[];
  readonly measure: Measure;
  readonly onMeasure: (measure: Measure) => void;
  readonly cap: number | null;
  readonly ceilings: readonly Ceiling[];
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
  readonly onUse: (place: ScalePlace) => void;
  /** Of the programme, for the picture’s name. */
  readonly name: string;
}

interface Shown extends ScalePoint {
  readonly curve: ScaleCurve;
  /** How far the size may lie off, to the left and to the right. */
  readonly bar: [left: number, right: number];
}

/** Size across, quality up: a curve for each codec and frame size, the cap a line, the best of all above them. */
export function TriedScale({ curves, measure, onMeasure, cap, ceilings, recipe, change, onUse, name }: Props) {
  const figure = useRef<HTMLElement>(null);
  const [isLog, setLog] = useState(true);
  const tried = triedOf(curves);
  const points = curves.flatMap((curve) => curve.points);
  const ticks = sizeTicks(points, cap, isLog);
  const values = points.map(({ value }) => value);
  const qualities = qualityTicks(values, 6);
  return (
    <figure ref={figure} className="mt-3 max-w-[60rem] 2xl:max-w-none" data-testid="tried-scale">
      <Heading measure={measure} onMeasure={onMeasure} isLog={isLog} onLog={setLog} />
      <ResponsiveContainer width="100%" height={320}>
        <ScatterChart margin={{ top: 14, right: 24, bottom: 26, left: 20 }}>
          <CartesianGrid stroke="var(--rule)" strokeDasharray="2 4" />
          <SizeAxis ticks={ticks} isLog={isLog} label="Size of the file" />
          <QualityAxis
            dataKey="value"
            domain={[qualities[0] ?? 0, qualities.at(-1) ?? 1]}
            ticks={qualities}
            label={`${MEASURE_WORDS[measure].name}, dB`}
          />
          <Tooltip
            cursor={false}
            content={({ payload }) => <PointNote point={payload?.[0]?.payload as Shown | undefined} />}
          />
          <Scatter
            name="envelope"
            data={envelopeOf(tried)}
            line={{ stroke: 'var(--ember)', strokeWidth: 6, strokeOpacity: 0.18 }}
            shape={() => <g />}
            isAnimationActive={false}
            tooltipType="none"
          />
          {ceilings.map(({ name: what, bytes }) => (
            <CeilingLine key={what} bytes={bytes} name={what} />
          ))}
          {cap !== null && <CapLine cap={cap} />}
          {tried.map((curve, index) => (
            <TriedCurve key={nameCurve(curve)} curve={curve} index={index} onUse={onUse} />
          ))}
          {curves.map((curve) => (
            <Scatter
              key={`between ${nameCurve(curve)}`}
              data={shownOf(curve, 'forecast')}
              fill="var(--sheet)"
              stroke="var(--measured)"
              shape="circle"
              isAnimationActive={false}
              onClick={({ payload }: { payload?: Shown }) => payload && onUse({ ...payload.curve, ...payload })}
              className="cursor-pointer"
            />
          ))}
          {curves.map((curve) => (
            <Scatter
              key={`made ${nameCurve(curve)}`}
              data={shownOf(curve, 'rendition')}
              shape="diamond"
              fill="var(--sheet)"
              stroke="var(--ink)"
              isAnimationActive={false}
            />
          ))}
          {cap !== null && <CapHandle cap={cap} onCap={(bytes) => change(withRate(recipe, { mode: 'size', bytes }))} />}
        </ScatterChart>
      </ResponsiveContainer>
      <Legend tried={tried} kinds={new Set(points.map(({ kind }) => kind))} />
      <p className="mt-1 flex gap-x-4 text-sm">
        {cap === null && (
          <Button look="quiet" onClick={() => change(withRate(recipe, { mode: 'size', bytes: middleOf(points) }))}>
            Put a cap on it
          </Button>
        )}
        <Button look="quiet" onClick={() => save(figure.current, name)}>
          Save as PNG
        </Button>
      </p>
    </figure>
  );
}

/** A cap where half of what was tried lies below, in a round number. */
function middleOf(points: readonly ScalePoint[]): number {
  const sizes = points.map(({ bytes }) => bytes).toSorted((a, b) => a - b);
  return roundToRead(sizes[Math.floor(sizes.length / 2)] ?? 1e6);
}

function save(figure: HTMLElement | null, name: string): void {
  const chart = figure?.querySelector('svg');
  if (!figure || !chart) return;
  const paper = getComputedStyle(figure).getPropertyValue('--paper');
  savePicture(chart, paper, `${name}, size against quality.png`).catch(() =>
    toast.error('The picture could not be made.'),
  );
}

function shownOf(curve: ScaleCurve, wanted: ScalePoint['kind']): Shown[] {
  return curve.points
    .filter(({ kind }) => kind === wanted)
    .map((point) => ({ ...point, curve, bar: [point.bytes - point.low, point.high - point.bytes] }));
}

interface TriedCurveProps extends Pick<Props, 'onUse'> {
  readonly curve: ScaleCurve;
  readonly index: number;
}

/** One curve with its error bars; a point that is clicked goes into the order. */
function TriedCurve({ curve, index, onUse }: TriedCurveProps) {
  return (
    <Scatter
      name={nameCurve(curve)}
      data={shownOf(curve, 'tried')}
      line={{ stroke: 'var(--measured)', strokeDasharray: DASHES[index % DASHES.length] ?? '' }}
      lineJointType="monotoneX"
      shape={SHAPES[index % SHAPES.length]!}
      fill="var(--measured)"
      isAnimationActive={false}
      onClick={({ payload }: { payload?: Shown }) => payload && onUse({ ...payload.curve, ...payload })}
      className="cursor-pointer"
    >
      <ErrorBar dataKey="bar" direction="x" width={4} stroke="var(--measured)" strokeWidth={1} opacity={0.45} />
    </Scatter>
  );
}

interface HeadingProps extends Pick<Props, 'measure' | 'onMeasure'> {
  readonly isLog: boolean;
  readonly onLog: (isLog: boolean) => void;
}

function Heading({ measure, onMeasure, isLog, onLog }: HeadingProps) {
  return (
    <figcaption className="mb-1 flex flex-wrap items-center gap-x-4">
      Size against quality, of the whole
      <Switch
        label="Measure"
        options={MEASURES.map((one) => ({ key: one, label: MEASURE_WORDS[one].name }))}
        chosen={measure}
        onChoose={(one) => onMeasure(one as Measure)}
      />
      <Switch
        label="Sizes"
        options={[
          { key: 'log', label: 'by doublings' },
          { key: 'even', label: 'evenly' },
        ]}
        chosen={isLog ? 'log' : 'even'}
        onChoose={(one) => onLog(one === 'log')}
      />
    </figcaption>
  );
}

interface LegendProps {
  readonly tried: readonly ScaleCurve[];
  readonly kinds: ReadonlySet<ScalePoint['kind']>;
}

function Legend({ tried, kinds }: LegendProps) {
  return (
    <ul className="flex flex-wrap gap-x-5 text-sm">
      {tried.map((curve, index) => (
        <li key={nameCurve(curve)}>
          <span className="text-measured">{SYMBOLS[index % SYMBOLS.length]}</span> {nameCurve(curve)}
        </li>
      ))}
      {kinds.has('forecast') && <li>○ foreseen between</li>}
      {kinds.has('rendition') && <li>◇ made</li>}
    </ul>
  );
}

interface SwitchProps {
  readonly label: string;
  readonly options: readonly { readonly key: string; readonly label: string }[];
  readonly chosen: string;
  readonly onChoose: (key: string) => void;
}

function Switch({ label, options, chosen, onChoose }: SwitchProps) {
  return (
    <span role="radiogroup" aria-label={label} className="flex gap-1 text-sm">
      {options.map((one) => (
        <button
          key={one.key}
          type="button"
          role="radio"
          aria-checked={one.key === chosen}
          onClick={() => onChoose(one.key)}
          className={one.key === chosen ? 'border-ember border-b-2 px-1' : 'text-quiet hover:text-ink px-1'}
        >
          {one.label}
        </button>
      ))}
    </span>
  );
}

function sizeTicks(points: readonly ScalePoint[], cap: number | null, isLog: boolean): number[] {
  const least = Math.min(...points.map(({ low }) => low));
  const most = Math.max(...points.map(({ high }) => high), cap ?? 0);
  return isLog ? logTicks(least, most) : evenTicks(0, most, 6);
}

/** Doublings of round sizes. */
function logTicks(least: number, most: number): number[] {
  const unit = 10 ** Math.floor(Math.log10(Math.max(1, least)));
  const first = unit * ([5, 2, 1].find((step) => step * unit <= least) ?? 1);
  const ticks = [first];
  while (ticks.at(-1)! < most && ticks.length < 14) ticks.push(ticks.at(-1)! * 2);
  return ticks;
}

function PointNote({ point }: { readonly point: Shown | undefined }) {
  if (!point?.curve) return null;
  return (
    <div className="border-rule bg-sheet rounded border px-2 py-1 text-sm">
      <div>{nameCurve(point.curve)}</div>
      <div className="figure">
        {formatBytes(point.bytes)} ({formatBytes(point.low)} to {formatBytes(point.high)}), {point.value.toFixed(2)} dB
        {point.kind === 'forecast' && ', foreseen between what was tried'}
      </div>
      {point.kind !== 'rendition' && <div className="text-quiet">quality {point.quality}; click to use it</div>}
    </div>
  );
}
