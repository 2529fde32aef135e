import type { Sampling, Scale } from '../../core/picture/scale.ts';
import type { PixelFormat } from '../../core/picture/store.ts';
import { engineFormat } from './store.ts';

/** How pictures are brought to another size, everywhere; stated beside every measurement. */
export const SCALER = 'bicubic';

const SCALER_FLAGS = `${SCALER}+accurate_rnd+full_chroma_int`;

/** The scaler's names for colour matrices differ from the tags' (ITU-T H.273). */
export const SCALER_MATRIX: Readonly<Record<string, string>> = {
  bt709: 'bt709',
  bt470bg: 'bt470',
  smpte170m: 'smpte170m',
  smpte240m: 'smpte240m',
  fcc: 'fcc',
  bt2020nc: 'bt2020',
  bt2020c: 'bt2020',
};

/**
 * Leaves nothing to be guessed: an untagged source would be taken as BT.601 even in HD. Where the numbers mean the same before and
 * after, no matrix is named, and the engine hands pictures of the right size on as they are instead of copying them.
 */
export function renderScale({ size, from, to }: Omit<Scale, 'step'>): string {
  const parts = [
    size ? `w=${size.width}:h=${size.height}` : 'w=iw:h=ih',
    `flags=${SCALER_FLAGS}`,
    ...(to !== 'rgb' && meansTheSame(from, to)
      ? [`in_range=${rangeName(from.range)}`, `out_range=${rangeName(to.range)}`]
      : convert(from, to)),
  ];
  return `scale=${parts.join(':')}`;
}

/** Pixels as they are worked on: in limited range, luma and chroma, stored as a step says. */
export function renderWorking({ from, format }: { readonly from: Sampling; readonly format: PixelFormat }): string {
  return `${renderScale({ size: null, from, to: { matrix: from.matrix, range: 'limited' } })},format=${engineFormat(format)}`;
}

/** RGB is in full range always, so what is limited has luma and chroma already. */
function meansTheSame(from: Sampling, to: Sampling): boolean {
  return from.matrix === to.matrix && from.range === 'limited' && to.range === 'limited';
}

function convert(from: Sampling, to: Scale['to']): string[] {
  return [
    `in_color_matrix=${SCALER_MATRIX[from.matrix] ?? 'bt709'}`,
    `in_range=${rangeName(from.range)}`,
    to === 'rgb'
      ? 'out_range=pc'
      : `out_color_matrix=${SCALER_MATRIX[to.matrix] ?? 'bt709'}:out_range=${rangeName(to.range)}`,
  ];
}

function rangeName(range: Sampling['range']): string {
  return range === 'full' ? 'pc' : 'tv';
}
