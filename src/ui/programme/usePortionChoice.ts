import { useCallback, useState } from 'react';
import type { PortionView } from '../../contract/views.ts';
import type { Portion } from '../../core/programme/facts.ts';
import { addPortion, changePortion } from '../portion/spans.ts';

/** Which of a programme's portions is worked on, and what is done to them. */
export function usePortionChoice(
  portions: readonly PortionView[],
  change: (next: { readonly portions: readonly PortionView[] }) => void,
) {
  const [selected, select] = useState<string | null>(portions[0]?.id ?? null);
  const changeAll = useCallback((next: readonly PortionView[]) => change({ portions: next }), [change]);
  const put = useCallback(
    ({ inFrame, outFrame }: Portion, id: string | null) => {
      if (id !== null) return changeAll(changePortion(portions, id, { inFrame, outFrame }));
      const [next, added] = addPortion(portions, { inFrame, outFrame });
      changeAll(next);
      select(added.id);
    },
    [portions, changeAll],
  );
  const current = portions.find(({ id }) => id === selected) ?? portions[0] ?? null;
  return { current, select, changeAll, put };
}
