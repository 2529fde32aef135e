import type { BatchPlanRow } from '../../contract/batch.ts';
import { bySeverity, type Severity } from '../../core/advice/advisory.ts';
import { rowFixOf, SOUND_ALONE, type RowFix } from './rowEdits.ts';

/** What is told of several rows alike, and can be seen to in one stroke. */
export interface AdviceGroup {
  readonly key: string;
  readonly severity: Severity;
  /** What stands of the first. */
  readonly message: string;
  /** How many programmes they are of. */
  readonly programmes: number;
  /** The programme that the message is of, where it is the only one or others say it otherwise; null where all say the same. */
  readonly name: string | null;
  /** Their places among all rows. */
  readonly rows: readonly number[];
  /** What mends each of those that can be mended by a key. */
  readonly fixes: readonly { readonly row: number; readonly edit: RowFix }[];
  /** Of the key that mends all; null where none can be. */
  readonly label: string | null;
}

/** One thing that is told of one row. */
interface Told {
  readonly row: number;
  readonly programmeId: string;
  readonly name: string;
  readonly key: string;
  readonly severity: Severity;
  readonly message: string;
  readonly fix: RowFix | null;
}

/** What is told of two rows or more: the serious first, and of those what is told of most. */
export function groupAdvice(rows: readonly BatchPlanRow[]): AdviceGroup[] {
  const groups = new Map<string, Told[]>();
  for (const [place, row] of rows.entries()) {
    if (row.isLeftOut) continue;
    for (const one of toldOf(row, place)) groups.set(one.key, [...(groups.get(one.key) ?? []), one]);
  }
  return [...groups.values()]
    .filter((told) => told.length > 1)
    .map(asGroup)
    .toSorted((one, other) => bySeverity(one, other) || other.rows.length - one.rows.length);
}

function toldOf({ programmeId, programmeName: name, reason, advisories }: BatchPlanRow, row: number): Told[] {
  const advice = advisories.map((one): Told => {
    const fix = rowFixOf(one);
    return {
      row,
      programmeId,
      name,
      key: `${one.code} ${fix?.kind ?? ''}`,
      severity: one.severity,
      message: one.message,
      fix,
    };
  });
  if (!reason) return advice;
  const fix = reason.code === 'no-picture' ? SOUND_ALONE : null;
  return [{ row, programmeId, name, key: reason.code, severity: 'serious', message: reason.message, fix }, ...advice];
}

function asGroup(told: readonly Told[]): AdviceGroup {
  const { key, severity, message, name } = told[0]!;
  const programmes = new Set(told.map(({ programmeId }) => programmeId)).size;
  const isShared = programmes > 1 && told.every((one) => one.message === message);
  const fixes = told.flatMap(({ row, fix }) => (fix ? [{ row, edit: fix }] : []));
  const rows = told.map(({ row }) => row);
  return { key, severity, message, programmes, name: isShared ? null : name, rows, fixes, label: labelOf(fixes) };
}

/** What the fixes are called where they are called alike. */
function labelOf(fixes: AdviceGroup['fixes']): string | null {
  const label = fixes[0]?.edit.label;
  if (label === undefined) return null;
  const all = fixes.length.toLocaleString('en');
  return fixes.every(({ edit }) => edit.label === label) ? `${label}, in all ${all}` : `Mend all ${all}`;
}
