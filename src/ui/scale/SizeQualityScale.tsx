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
import type { RenditionView } from '../../contract/views.ts';
import { CODEC_NAMES } from '../../core/codec/tables.ts';
import { formatBytes } from '../kit/format.ts';

interface Mark {
  readonly id: string;
  readonly name: string;
  readonly bytes: number;
  readonly decibels: number;
}

/** Size across, quality up: each result a mark, a curve per codec and frame size, the newest cap a line. */
export function SizeQualityScale({ renditions }: { readonly renditions: readonly RenditionView[] }) {
  const router = useRouter();
  const curves = groupByCurve(renditions);
  const cap = renditions.map((rendition) => rendition.plan.budget.cap).findLast((value) => value !== null) ?? null;
  const decibels = [...curves.values()].flat().map((mark) => mark.decibels);
  const floor = Math.floor(Math.min(...decibels) - 0.5);
  const ceiling = Math.ceil(Math.max(...decibels) + 0.5);
  return (
    <figure className="mt-5 max-w-[60rem]" data-testid="scale">
      <figcaption className="mb-1">Size against quality</figcaption>
      <ResponsiveContainer width="100%" height={280}>
        <ScatterChart margin={{ top: 14, right: 24, bottom: 26, left: 20 }}>
          <CartesianGrid stroke="var(--rule)" strokeDasharray="2 4" />
          <XAxis
            type="number"
            dataKey="bytes"
            name="Size"
            domain={[0, 'auto']}
            tickFormatter={formatBytes}
            tick={TICK}
            stroke="var(--quiet)"
          >
            <Label value="Size" position="bottom" offset={6} fill="var(--quiet)" />
          </XAxis>
          <YAxis
            type="number"
            dataKey="decibels"
            name="SSIM"
            domain={[floor, ceiling]}
            allowDecimals={false}
            tick={TICK}
            stroke="var(--quiet)"
          >
            <Label
              value="SSIM, dB"
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
      <ul className="flex flex-wrap gap-x-5 text-sm">
        {[...curves.keys()].map((curve, index) => (
          <li key={curve}>
            <span className="text-measured">{SYMBOLS[index % SYMBOLS.length]}</span> {curve}
          </li>
        ))}
      </ul>
    </figure>
  );
}

const TICK = { fill: 'var(--quiet)', fontFamily: 'var(--font-mono)', fontSize: 12 };
const SHAPES = ['circle', 'square', 'triangle', 'diamond', 'cross', 'star'] as const;
const SYMBOLS = ['●', '■', '▲', '◆', '✚', '★'] as const;
const DASHES = ['', '6 4', '2 3', '8 3 2 3'] as const;

function groupByCurve(renditions: readonly RenditionView[]): Map<string, Mark[]> {
  const curves = new Map<string, Mark[]>();
  for (const { id, name, bytes, quality, plan } of renditions) {
    if (bytes === null || !quality || !plan.picture || !plan.video) continue;
    const curve = `${CODEC_NAMES[plan.video.codec]}, ${plan.picture.size.width} × ${plan.picture.size.height}`;
    const marks = curves.get(curve) ?? [];
    marks.push({ id, name, bytes, decibels: quality.ssim.meanDb });
    curves.set(
      curve,
      marks.sort((a, b) => a.bytes - b.bytes),
    );
  }
  return curves;
}

function MarkNote({ mark }: { readonly mark: Mark | undefined }) {
  if (!mark) return null;
  return (
    <div className="border-rule bg-sheet rounded border px-2 py-1 text-sm">
      <div>{mark.name}</div>
      <div className="figure">
        {formatBytes(mark.bytes)}, SSIM {mark.decibels.toFixed(2)} dB
      </div>
    </div>
  );
}
