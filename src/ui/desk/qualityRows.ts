/** Per-frame qualities as the server tells them: columns of the same length. */
export interface QualityRows {
  readonly ssim: readonly number[];
  readonly psnr: readonly number[];
}

/** Reads the CSV of per-frame qualities. */
export function parseQualityRows(csv: string): QualityRows {
  const [head = '', ...lines] = csv.trim().split('\n');
  const columns = head.split(',');
  const [ssimAt, psnrAt] = [columns.indexOf('ssim_all'), columns.indexOf('psnr_all')];
  const rows = lines.map((line) => line.split(',').map(Number));
  return { ssim: rows.map((row) => row[ssimAt] ?? 0), psnr: rows.map((row) => row[psnrAt] ?? 0) };
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
