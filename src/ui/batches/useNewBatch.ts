import { useMutation } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useMemo } from 'react';
import { toast } from 'sonner';
import type { BatchOrder, BatchPlanRow, BatchRequest, Together } from '../../contract/batch.ts';
import { api } from '../hooks/api.ts';
import { useBatchPlan } from '../hooks/batchQueries.ts';
import { useUndoable } from '../hooks/useUndoable.ts';
import { useActKey } from '../hooks/useWorkKey.ts';
import type { Making } from './MadeWith.tsx';
import { editOrder, foreseeRow, UNCHANGED, withEdit, type RowChange, type RowEdit } from './rowEdits.ts';

/** A batch while it is put together: by what, held to what, and what was done to single rows, by their place among all. */
interface Draft {
  readonly making: Making;
  readonly together: Together | null;
  readonly changes: Readonly<Record<number, RowChange>>;
}

const NOTHING_CHANGED: Draft['changes'] = {};

const BEGINNING: Draft = {
  making: { kind: 'recipes', ids: ['stock-web-720'] },
  together: null,
  changes: NOTHING_CHANGED,
};

/** The order of a batch while it is put together, and what comes of it. */
export function useNewBatch(programmeIds: readonly string[]) {
  const { value: draft, set, undo, redo } = useUndoable<Draft>(BEGINNING);
  const { making, together, changes } = draft;
  useActKey('mod+z', undo);
  useActKey('mod+shift+z, mod+y', redo);
  const request = useMemo(() => requestOf(programmeIds, making, together), [programmeIds, making, together]);
  const { data: asked, error, isFetching, isPlaceholderData } = useBatchPlan(request);
  const rows = asked?.rows;
  const briefId = making.kind === 'brief' ? making.id : null;
  /** As it is shown, order by order. */
  const orders = useMemo(
    () => ({ orders: ordersOf(rows ?? [], changes), briefId, together }),
    [rows, changes, briefId, together],
  );
  // What was done is planned again with everything else, so that all figures are of what will be queued; not over the rows of another.
  const changed = rows && !isPlaceholderData && changes !== NOTHING_CHANGED ? orders : null;
  const { data: again, isFetching: isFetchingAgain, isPlaceholderData: isBefore } = useBatchPlan(changed, request);
  const plan = useMemo(() => {
    const answer = changed ? (again ?? asked) : asked;
    const isAnswered = !changed || (again && !isBefore);
    if (!answer || !asked || isAnswered) return answer;
    return {
      ...answer,
      rows: answer.rows.map((row, place) => foreseeRow(row, asked.rows[place]!, changes[place] ?? UNCHANGED)),
    };
  }, [changed, again, asked, isBefore, changes]);
  const changeOf = (row: number) => changes[row] ?? UNCHANGED;
  const change = (list: readonly (readonly [row: number, change: RowChange])[]) =>
    set({ ...draft, changes: { ...changes, ...Object.fromEntries(list) } });
  return {
    ...{ making, together, error },
    /** Back to how it is now, whatever is done after. */
    restore: () => set(draft),
    make: (next: Making) => set({ ...draft, making: next, changes: NOTHING_CHANGED }),
    setTogether: (next: Together | null) => set({ ...draft, together: next }),
    plan,
    /** As rows were before anything was done to them. */
    atFirst: rows ?? [],
    isPlanning: isFetching || isFetchingAgain,
    /** Whether what is shown is of something else that was asked before. */
    isOfAnother: isPlaceholderData,
    orders,
    edit: (edits: readonly { readonly row: number; readonly edit: RowEdit }[]) =>
      change(edits.map(({ row, edit }) => [row, withEdit(changeOf(row), edit)])),
    leaveOut: (places: readonly number[], isLeftOut: boolean) =>
      change(places.map((row) => [row, { ...changeOf(row), isLeftOut }])),
    reset: (row: number) => change([[row, { ...changeOf(row), edits: [] }]]),
  };
}

export type NewBatch = ReturnType<typeof useNewBatch>;

/** Queues a batch, or has measured what of it is unknown. */
export function useBatchOrder({ orders }: NewBatch) {
  const router = useRouter();
  const tell = (problem: Error) => void toast.error(problem.message);
  return {
    order: useMutation({
      mutationFn: (name: string) => api.askBatch({ ...orders, name: name || null }),
      onSuccess: ({ id }) => {
        // Asked once, when there is something to be told of.
        if (typeof Notification !== 'undefined' && Notification.permission === 'default') {
          void Notification.requestPermission();
        }
        router.push(`/batches/${id}`);
      },
      onError: tell,
    }),
    measure: useMutation({ mutationFn: () => api.measureBatch(orders), onError: tell }),
  };
}

function requestOf(
  programmeIds: readonly string[],
  making: Making,
  together: BatchRequest['together'],
): Partial<BatchRequest> | null {
  if (programmeIds.length === 0) return null;
  switch (making.kind) {
    case 'recipes':
      return making.ids.length > 0 ? { programmeIds, recipes: making.ids, together } : null;
    case 'bundle':
      return { programmeIds, bundleId: making.id, together };
    case 'brief':
      return { programmeIds, briefId: making.id, together };
  }
}

function ordersOf(rows: readonly BatchPlanRow[], changes: Draft['changes']): BatchOrder[] {
  return rows.map(({ programmeId, recipe, portion }, place) => {
    const { edits, isLeftOut } = changes[place] ?? UNCHANGED;
    return { programmeId, ...editOrder({ recipe, portion }, edits), isLeftOut };
  });
}
