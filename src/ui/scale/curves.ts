import type { RenditionView } from '../../contract/views.ts';
import { isEncoded, pictureOf, type PictureStream } from '../../core/plan/encodePlan.ts';
import { VIDEO } from '../../core/video/codecs.ts';
import { namePreparation } from '../../core/geometry/preparation.ts';

/** A result on the scale. */
export interface Mark {
  readonly id: string;
  readonly name: string;
  readonly bytes: number;
  /** Mean SSIM over all planes, as in the table. */
  readonly ssim: number;
}

/**
 * Results that can be compared, by what they have in common: codec and frame size, the same portion, and the same crop
 * and fields. Only those are joined by a curve.
 *
 * @returns By a name that tells each from the others; of each the smallest first.
 */
export function curvesOf(renditions: readonly RenditionView[]): Map<string, Mark[]> {
  const portions = new Set(renditions.map(({ portion }) => JSON.stringify(portion)));
  const curves = new Map<string, Mark[]>();
  for (const rendition of renditions) {
    const { id, name, bytes, quality, plan } = rendition;
    const picture = pictureOf(plan);
    if (bytes === null || !quality || !picture) continue;
    const curve = nameCurve(rendition, picture, portions.size > 1);
    const marks = curves.get(curve) ?? [];
    marks.push({ id, name, bytes, ssim: quality.ssim.mean });
    curves.set(
      curve,
      marks.sort((a, b) => a.bytes - b.bytes),
    );
  }
  return curves;
}

function nameCurve(
  { recipe, portion, portionName }: RenditionView,
  picture: PictureStream,
  hasOthers: boolean,
): string {
  const codec = isEncoded(picture) ? VIDEO[picture.do.codec].name : 'copied';
  const size = `${picture.out.size.width} × ${picture.out.size.height}`;
  const span = portion ? (portionName ?? `frames ${portion.inFrame} to ${portion.outFrame}`) : 'the whole';
  const where = hasOthers
    ? `${span}${portion && portionName ? ` (${portion.inFrame} to ${portion.outFrame})` : ''}`
    : '';
  return [codec, size, namePreparation(recipe.picture), where].filter(Boolean).join(', ');
}
