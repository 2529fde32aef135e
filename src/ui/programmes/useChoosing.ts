import { useMemo, useState } from 'react';

/** Which rows of a list are chosen. */
export interface Choosing {
  readonly chosen: ReadonlySet<string>;
  /** With Shift everything from the row that was taken last. */
  readonly toggle: (id: string, isRange: boolean) => void;
  readonly set: (ids: readonly string[]) => void;
}

/** @param ids - In the order they are listed. */
export function useChoosing(ids: readonly string[]): Choosing {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [last, setLast] = useState<string | null>(null);
  return useMemo(
    () => ({
      chosen,
      toggle: (id, isRange) => {
        const [from, to] = [ids.indexOf(last ?? id), ids.indexOf(id)].sort((one, other) => one - other) as [
          number,
          number,
        ];
        const next = new Set(chosen);
        const isTaken = !chosen.has(id);
        for (const one of isRange && from >= 0 ? ids.slice(from, to + 1) : [id]) {
          if (isTaken) next.add(one);
          else next.delete(one);
        }
        setChosen(next);
        setLast(id);
      },
      set: (wanted) => setChosen(new Set(wanted)),
    }),
    [chosen, ids, last],
  );
}
