'use client';

import { useRouter } from 'next/navigation';
import {
  CartesianGrid,
  Label,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import type { RenditionSummary } from '../../contract/views.ts';
import { formatBytes } from '../kit/format.ts';
import { curvesOf, type Mark } from './curves.ts';
import { evenTicks } from './evenTicks.ts';

/** Size across, quality up: each result a mark, a curve per codec and frame size, the newest cap a line. */
export function SizeQualityScale({ renditions }: { readonly renditions: readonly RenditionSummary[] }) {
  const router = useRouter();
  const curves = curvesOf(renditions);
  const cap = renditions.map(({ outline }) => outline.capBytes).findLast((value) => value !== null) ?? null;
  const marks = [...curves.values()].flat();
  const sizes = evenTicks(0, Math.max(cap ?? 0, ...marks.map(({ bytes }) => bytes)), 6);
  const qualities = evenTicks(Math.min(0.99, ...marks.map(({ ssim }) => ssim)), 1, 5);
  return (
    <figure className="mt-5 max-w-[60rem] 2xl:max-w-none" data-testid="scale">
      <figcaption className="mb-1">Size against quality</figcaption>
      <ResponsiveContainer width="100%" height={280}>
        <ScatterChart margin={{ top: 14, right: 24, bottom: 26, left: 20 }}>
          <CartesianGrid stroke="var(--rule)" strokeDasharray="2 4" />
          <XAxis
            type="number"
            dataKey="bytes"
            name="Size"
            domain={[0, sizes.at(-1) ?? 1]}
            ticks={sizes}
            tickFormatter={formatBytes}
            tick={TICK}
            stroke="var(--quiet)"
          >
            <Label value="Size" position="bottom" offset={6} fill="var(--quiet)" />
          </XAxis>
          <YAxis
            type="number"
            dataKey="ssim"
            name="SSIM"
            domain={[qualities[0] ?? 0, 1]}
            ticks={qualities.filter((tick) => tick <= 1)}
            tick={TICK}
            stroke="var(--quiet)"
          >
            <Label
              value="SSIM, mean of all"
              angle={-90}
              position="insideLeft"
              offset={-4}
              fill="var(--quiet)"
              style={{ textAnchor: 'middle' }}
            />
          </YAxis>
          <Tooltip
            cursor={false}
            content={({ payload }) => <MarkNote mark={payload?.[0]?.payload as Mark | undefined} />}
          />
          {cap !== null && (
            <ReferenceLine x={cap} ifOverflow="extendDomain" stroke="var(--ember)" strokeWidth={2}>
              <Label value={`cap ${formatBytes(cap)}`} position="insideTopRight" fill="var(--ember)" fontSize={13} />
            </ReferenceLine>
          )}
          {[...curves].map(([curve, marks], index) => (
            <Scatter
              key={curve}
              name={curve}
              data={marks}
              line={
                marks.length > 1
                  ? { stroke: 'var(--measured)', strokeDasharray: DASHES[index % DASHES.length] ?? '' }
                  : false
              }
              shape={SHAPES[index % SHAPES.length]!}
              fill="var(--measured)"
              isAnimationActive={false}
              onClick={(mark: { payload?: Mark }) => mark.payload && router.push(`/desk/${mark.payload.id}`)}
              className="cursor-pointer"
            />
          ))}
        </ScatterChart>
      </ResponsiveContainer>
      <Legend curves={[...curves.keys()]} />
    </figure>
  );
}

function Legend({ curves }: { readonly curves: readonly string[] }) {
  return (
    <ul className="flex flex-wrap gap-x-5 text-sm">
      {curves.map((curve, index) => (
        <li key={curve}>
          <span className="text-measured">{SYMBOLS[index % SYMBOLS.length]}</span> {curve}
        </li>
      ))}
    </ul>
  );
}

const TICK = { fill: 'var(--quiet)', fontFamily: 'var(--font-mono)', fontSize: 12 };
const SHAPES = ['circle', 'square', 'triangle', 'diamond', 'cross', 'star'] as const;
const SYMBOLS = ['●', '■', '▲', '◆', '✚', '★'] as const;
const DASHES = ['', '6 4', '2 3', '8 3 2 3'] as const;

function MarkNote({ mark }: { readonly mark: Mark | undefined }) {
  if (!mark) return null;
  return (
    <div className="border-rule bg-sheet rounded border px-2 py-1 text-sm">
      <div>{mark.name}</div>
      <div className="figure">
        {formatBytes(mark.bytes)}, SSIM {mark.ssim.toFixed(4)}
      </div>
    </div>
  );
}
