import { MEASURES, type Measure } from '../../core/quality/closerLook.ts';
import { ssimToDecibels } from '../../core/quality/frameQuality.ts';
import { MEASURE_WORDS } from '../../core/quality/sayQuality.ts';

/** Per-frame qualities in decibels: columns of the same length, empty for what was not measured. */
export type QualityRows = Readonly<Record<Measure, readonly number[]>>;

/** Reads the CSV of per-frame qualities. */
export function parseQualityRows(csv: string): QualityRows {
  const [head = '', ...lines] = csv.trim().split('\n');
  const columns = head.split(',');
  const rows = lines.map((line) => line.split(',').map(Number));
  const column = (name: string) => {
    const at = columns.indexOf(name);
    return at < 0 ? [] : rows.map((row) => row[at] ?? 0);
  };
  return { ssim: column('ssim_all').map(ssimToDecibels), psnr: column('psnr_all'), xpsnr: column('xpsnr_y') };
}

/** What one frame measures, as it is written. */
export function valuesAt(rows: QualityRows, frame: number): { readonly name: string; readonly decibels: number }[] {
  return MEASURES.flatMap((measure) => {
    const decibels = rows[measure][frame];
    return decibels === undefined ? [] : [{ name: MEASURE_WORDS[measure].name, decibels }];
  });
}

/**
 * The lowest value within each of so many equal parts: a strip must never hide a bad frame between two pixels.
 *
 * @param parts - At least 1.
 */
export function lowestPerPart(values: readonly number[], parts: number): number[] {
  return Array.from({ length: parts }, (_, part) => {
    const from = Math.floor((part * values.length) / parts);
    const to = Math.max(from + 1, Math.floor(((part + 1) * values.length) / parts));
    let least = Infinity;
    for (let index = from; index < to && index < values.length; index += 1)
      least = Math.min(least, values[index] ?? Infinity);
    return least;
  });
}
