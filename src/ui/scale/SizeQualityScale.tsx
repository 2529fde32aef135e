'use client';

import { useRouter } from 'next/navigation';
import { CartesianGrid, ResponsiveContainer, Scatter, ScatterChart, Tooltip } from 'recharts';
import type { RenditionSummary } from '../../contract/views.ts';
import { sayDecibels } from '../../core/quality/sayQuality.ts';
import { formatBytes } from '../kit/format.ts';
import { CapLine, DASHES, QualityAxis, SHAPES, SizeAxis, SYMBOLS } from './axes.tsx';
import { curvesOf, type Mark } from './curves.ts';
import { evenTicks, qualityTicks } from './evenTicks.ts';

/** Size across, quality up: each result a mark, a curve per codec and frame size, the newest cap a line. */
export function SizeQualityScale({ renditions }: { readonly renditions: readonly RenditionSummary[] }) {
  const router = useRouter();
  const curves = curvesOf(renditions);
  const cap = renditions.map(({ outline }) => outline.capBytes).findLast((value) => value !== null) ?? null;
  const marks = [...curves.values()].flat();
  const sizes = evenTicks(0, Math.max(cap ?? 0, ...marks.map(({ bytes }) => bytes)), 6);
  const qualities = qualityTicks(
    marks.map(({ decibels }) => decibels),
    5,
  );
  return (
    <figure className="mt-5 max-w-[60rem] 2xl:max-w-none" data-testid="scale">
      <figcaption className="mb-1">Size against quality</figcaption>
      <ResponsiveContainer width="100%" height={280}>
        <ScatterChart margin={{ top: 14, right: 24, bottom: 26, left: 20 }}>
          <CartesianGrid stroke="var(--rule)" strokeDasharray="2 4" />
          <SizeAxis ticks={sizes} label="Size" />
          <QualityAxis
            dataKey="decibels"
            domain={[qualities[0] ?? 0, qualities.at(-1) ?? 1]}
            ticks={qualities}
            label="SSIM in dB, mean of all"
          />
          <Tooltip
            cursor={false}
            content={({ payload }) => <MarkNote mark={payload?.[0]?.payload as Mark | undefined} />}
          />
          {cap !== null && <CapLine cap={cap} />}
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

function MarkNote({ mark }: { readonly mark: Mark | undefined }) {
  if (!mark) return null;
  return (
    <div className="border-rule bg-sheet rounded border px-2 py-1 text-sm">
      <div>{mark.name}</div>
      <div className="figure">
        {formatBytes(mark.bytes)}, SSIM {sayDecibels(mark.decibels)}
      </div>
    </div>
  );
}
