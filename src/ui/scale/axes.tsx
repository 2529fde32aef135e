import { Label, ReferenceLine, XAxis, YAxis } from 'recharts';
import { formatBytes } from '../kit/format.ts';

const TICK = { fill: 'var(--quiet)', fontFamily: 'var(--font-mono)', fontSize: 12 };

/** How curves are told apart without colour: shapes of their marks, as drawn and in the legend, and dashes. */
export const SHAPES = ['circle', 'square', 'triangle', 'diamond', 'cross', 'star'] as const;
export const SYMBOLS = ['●', '■', '▲', '◆', '✚', '★'] as const;
export const DASHES = ['', '6 4', '2 3', '8 3 2 3'] as const;

interface SizeAxisProps {
  /** The first and the last are the ends. */
  readonly ticks: readonly number[];
  readonly isLog?: boolean;
  readonly label: string;
}

/** Bytes, across. */
export function SizeAxis({ ticks, isLog = false, label }: SizeAxisProps) {
  return (
    <XAxis
      type="number"
      dataKey="bytes"
      name="Size"
      scale={isLog ? 'log' : 'linear'}
      domain={[ticks[0] ?? 1, ticks.at(-1) ?? 1]}
      ticks={ticks}
      tickFormatter={formatBytes}
      tick={TICK}
      stroke="var(--quiet)"
      allowDataOverflow
    >
      <Label value={label} position="bottom" offset={6} fill="var(--quiet)" />
    </XAxis>
  );
}

interface QualityAxisProps {
  readonly dataKey: string;
  readonly domain: readonly [number, number];
  readonly ticks: readonly number[];
  readonly label: string;
}

/** How good, upward. */
export function QualityAxis({ dataKey, domain, ticks, label }: QualityAxisProps) {
  return (
    <YAxis type="number" dataKey={dataKey} domain={[...domain]} ticks={ticks} tick={TICK} stroke="var(--quiet)">
      <Label
        value={label}
        angle={-90}
        position="insideLeft"
        offset={-4}
        fill="var(--quiet)"
        style={{ textAnchor: 'middle' }}
      />
    </YAxis>
  );
}

/** Where the cap lies. */
export function CapLine({ cap }: { readonly cap: number }) {
  return (
    <ReferenceLine x={cap} ifOverflow="extendDomain" stroke="var(--ember)" strokeWidth={2}>
      <Label value={`cap ${formatBytes(cap)}`} position="insideTopRight" fill="var(--ember)" fontSize={13} />
    </ReferenceLine>
  );
}

/** A limit of the receiver, where the chart reaches it. */
export function CeilingLine({ bytes, name }: { readonly bytes: number; readonly name: string }) {
  return (
    <ReferenceLine x={bytes} ifOverflow="hidden" stroke="var(--ink)" strokeDasharray="4 4">
      <Label value={`${name} ${formatBytes(bytes)}`} position="insideBottomRight" fill="var(--ink)" fontSize={13} />
    </ReferenceLine>
  );
}
