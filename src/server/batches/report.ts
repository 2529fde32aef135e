import type { BatchView } from '../../contract/batch.ts';
import { writeCsv } from '../csv.ts';

const COLUMNS = [
  'programme',
  'recipe',
  'order',
  'state',
  'reason',
  'file',
  'source bytes',
  'bytes',
  'share',
  'programme seconds',
  'work seconds',
  'ssim',
] as const;

/** What became of a batch as comma-separated values (RFC 4180), a row for each file and one for all. */
export function writeReport({ rows }: BatchView): string {
  const lines = rows.map((row) => [
    row.programmeName,
    row.recipeName,
    row.sentence,
    row.state,
    row.reason ?? '',
    row.path ?? '',
    row.sourceBytes,
    row.bytes,
    row.bytes !== null && row.sourceBytes ? (row.bytes / row.sourceBytes).toFixed(4) : null,
    row.seconds?.toFixed(3) ?? null,
    row.workSeconds?.toFixed(1) ?? null,
    row.ssim?.toFixed(5) ?? null,
  ]);
  return writeCsv([COLUMNS, ...lines]);
}
