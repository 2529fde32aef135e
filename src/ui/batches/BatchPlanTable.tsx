import { useMemo, useState } from 'react';
import type { BatchPlanRow } from '../../contract/batch.ts';
import { useWindowRows } from '../hooks/useWindowRows.ts';
import { PlannedRow, type RowActs } from './PlannedRow.tsx';

/** Most rows, before they are seen. */
const USUAL_HEIGHT = 62;

interface Props {
  readonly rows: readonly BatchPlanRow[];
  /** As they were before anything was done to them: mended, a row stays where it is. */
  readonly atFirst: readonly BatchPlanRow[];
  readonly isShown: (row: BatchPlanRow, place: number) => boolean;
  readonly acts: RowActs;
}

/** Every file that would be made, and what cannot or should not be with its reason and its fix; of many only the rows in sight are there. */
export function BatchPlanTable({ rows, atFirst, isShown, acts }: Props) {
  const [open, setOpen] = useState<number | null>(null);
  // What wants a decision comes first.
  const places = useMemo(() => atFirst.map((_, place) => place).toSorted(byNeed(atFirst)), [atFirst]);
  const listed = useMemo(
    () => places.filter((place) => rows[place] && isShown(rows[place], place)),
    [places, rows, isShown],
  );
  const keyOf = (index: number) => listed[index] ?? index;
  const { table, items, measure, before, after } = useWindowRows(listed.length, USUAL_HEIGHT, keyOf);
  return (
    <table ref={table} className="w-full border-collapse" aria-rowcount={listed.length + 1}>
      <thead>
        <tr className="border-rule text-quiet border-b text-left text-sm">
          <th className="w-16 py-1 font-normal">Make</th>
          <th className="font-normal">Programme</th>
          <th className="px-2 font-normal">As</th>
          <th className="px-2 text-right font-normal">Expected</th>
          <th className="px-2 text-right font-normal max-md:hidden">Work</th>
        </tr>
      </thead>
      {before > 0 && <Gap height={before} />}
      {items.map(({ index }) => {
        const place = listed[index]!;
        return (
          <tbody key={place} ref={measure} data-index={index}>
            <PlannedRow
              row={rows[place]!}
              place={place}
              atFirst={atFirst[place]!}
              acts={acts}
              isOpen={open === place}
              onOpen={setOpen}
            />
          </tbody>
        );
      })}
      {after > 0 && <Gap height={after} />}
    </table>
  );
}

function Gap({ height }: { readonly height: number }) {
  return (
    <tbody aria-hidden="true">
      <tr>
        <td style={{ height }} colSpan={5} />
      </tr>
    </tbody>
  );
}

function byNeed(rows: readonly BatchPlanRow[]): (one: number, other: number) => number {
  const rank = (place: number) => {
    const { state, advisories } = rows[place]!;
    return state === 'cannot' ? 0 : advisories.length > 0 ? 1 : 2;
  };
  return (one, other) => rank(one) - rank(other);
}
