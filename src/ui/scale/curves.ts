import type { RenditionSummary } from '../../contract/views.ts';
import { ssimToDecibels } from '../../core/quality/frameQuality.ts';
import { VIDEO } from '../../core/video/codecs.ts';

/** What is identical has no end of decibels; it stands at the top of any useful scale. */
const MOST_DB = 40;

/** A result on the scale. */
export interface Mark {
  readonly id: string;
  readonly name: string;
  readonly bytes: number;
  /** Mean SSIM over all planes, as in the table; a copy is above all others. */
  readonly decibels: number;
}

/**
 * Results that can be compared, by what they have in common: codec and frame size, the same portion, and the same crop
 * and fields. Only those are joined by a curve.
 *
 * @returns By a name that tells each from the others; of each the smallest first.
 */
export function curvesOf(renditions: readonly RenditionSummary[]): Map<string, Mark[]> {
  const portions = new Set(renditions.map(({ portion }) => JSON.stringify(portion)));
  const curves = new Map<string, Mark[]>();
  for (const rendition of renditions) {
    const { id, name, bytes, quality, outline } = rendition;
    if (bytes === null || !quality || outline.codec === null) continue;
    const curve = nameCurve(rendition, portions.size > 1);
    const marks = curves.get(curve) ?? [];
    marks.push({ id, name, bytes, decibels: Math.min(MOST_DB, ssimToDecibels(quality.ssim.mean)) });
    curves.set(
      curve,
      marks.sort((a, b) => a.bytes - b.bytes),
    );
  }
  return curves;
}

function nameCurve({ outline, preparation, portion, portionName }: RenditionSummary, hasOthers: boolean): string {
  const { codec: made, width, height } = outline;
  const codec = made === 'copy' || made === null ? 'copied' : VIDEO[made].name;
  const size = `${width} × ${height}`;
  const span = portion ? (portionName ?? `frames ${portion.inFrame} to ${portion.outFrame}`) : 'the whole';
  const where = hasOthers
    ? `${span}${portion && portionName ? ` (${portion.inFrame} to ${portion.outFrame})` : ''}`
    : '';
  return [codec, size, preparation, where].filter(Boolean).join(', ');
}
