'use client';

import { useMutation } from '@tanstack/react-query';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import type { BatchOrder, BatchPlanRow, BatchRequest, Together } from '../../contract/batch.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { api } from '../hooks/api.ts';
import { useBatchPlan } from '../hooks/batchQueries.ts';
import { useIsInBrowser } from '../hooks/useIsInBrowser.ts';
import { useActKey } from '../hooks/useWorkKey.ts';
import { Button } from '../kit/Button.tsx';
import { count } from '../kit/count.ts';
import { Notice } from '../kit/Notice.tsx';
import { BatchForeseen } from './BatchForeseen.tsx';
import { BatchPlanTable } from './BatchPlanTable.tsx';
import { readChosen } from './chosenProgrammes.ts';
import { fixRecipe } from './fixRecipe.ts';
import { MadeWith, type Making } from './MadeWith.tsx';
import { TogetherBar, TogetherField } from './Together.tsx';

/** What will be made of many programmes, in numbers, before it is queued. */
export function NewBatchPage() {
  const isInBrowser = useIsInBrowser();
  return isInBrowser ? <NewBatch programmeIds={readChosen()} /> : null;
}

/** What was changed of single rows, by programme and recipe. */
type Changes = Readonly<Record<string, { readonly recipe?: Recipe; readonly isLeftOut?: boolean }>>;

/** The order of a batch while it is put together: by what, what was changed of single rows, and what comes of it. */
function useNewBatch(programmeIds: readonly string[]) {
  const [making, setMaking] = useState<Making>({ kind: 'recipes', ids: ['stock-web-720'] });
  const [changes, setChanges] = useState<Changes>({});
  const [together, setTogether] = useState<Together | null>(null);
  const router = useRouter();
  const request = useMemo(() => requestOf(programmeIds, making, together), [programmeIds, making, together]);
  const { data: asked, error, isFetching } = useBatchPlan(request);
  const rows = asked?.rows;
  // What was changed is planned again with everything else, so that all figures are of what will be queued.
  const changed = useMemo(() => (rows && hasChanges(rows, changes) ? ordersOf(rows, changes) : null), [rows, changes]);
  const { data: again } = useBatchPlan(changed && { orders: changed, briefId: briefOf(making), together });
  const tell = (problem: Error) => void toast.error(problem.message);
  const order = useMutation({
    mutationFn: (name: string) =>
      api.askBatch({ name: name || null, orders: ordersOf(rows ?? [], changes), briefId: briefOf(making), together }),
    onSuccess: ({ id }) => {
      // Asked once, when there is something to be told of.
      if (typeof Notification !== 'undefined' && Notification.permission === 'default') {
        void Notification.requestPermission();
      }
      router.push(`/batches/${id}`);
    },
    onError: tell,
  });
  const measure = useMutation({
    mutationFn: () =>
      api.planBatch(changed ? { orders: changed, briefId: briefOf(making), together } : (request ?? {}), true),
    onError: tell,
  });
  return {
    making,
    make: (next: Making) => {
      setMaking(next);
      setChanges({});
    },
    together,
    setTogether,
    plan: changed ? (again ?? asked) : asked,
    error,
    isFetching,
    order,
    measure,
    change: (row: BatchPlanRow, part: Changes[string]) =>
      setChanges({ ...changes, [keyOf(row)]: { ...changes[keyOf(row)], ...part } }),
    isLeftOut: (row: BatchPlanRow) => changes[keyOf(row)]?.isLeftOut ?? false,
  };
}

function NewBatch({ programmeIds }: { readonly programmeIds: readonly string[] }) {
  const batch = useNewBatch(programmeIds);
  const { making, make, plan, error, isFetching, order, measure, change, isLeftOut } = batch;
  const [name, setName] = useState('');
  const isShared = plan?.together?.by !== null;
  const isReady = plan !== undefined && plan !== null && plan.files > 0 && isShared && !order.isPending;
  useActKey('q', () => isReady && order.mutate(name));
  if (programmeIds.length === 0) {
    return (
      <main className="mx-auto max-w-6xl px-5 py-5">
        <h1 className="mb-2 text-2xl font-semibold">A new batch</h1>
        <p className="text-quiet">
          No programmes are chosen.{' '}
          <Link href="/" className="underline">
            Choose them in the list
          </Link>
          , with the boxes at the left.
        </p>
      </main>
    );
  }
  return (
    <main className="mx-auto max-w-6xl px-5 pt-5 pb-20 2xl:max-w-[90rem]">
      <h1 className="mb-1 text-2xl font-semibold">A new batch</h1>
      <p className="mb-3">
        {count(programmeIds.length, 'programme', 'programmes')}, <MadeWith making={making} onChange={make} />
      </p>
      <TogetherField together={batch.together} onTogether={batch.setTogether} />
      {error && (
        <Notice kind="wrong" role="alert">
          {error.message}
        </Notice>
      )}
      {plan?.together && <TogetherBar plan={plan} together={plan.together} />}
      {plan && <BatchForeseen plan={plan} isOld={isFetching} onMeasure={() => measure.mutate()} />}
      {plan && (
        <BatchPlanTable
          rows={plan.rows}
          isLeftOut={isLeftOut}
          onLeave={(row, isLeft) => change(row, { isLeftOut: isLeft })}
          onFix={(row, fix) => change(row, { recipe: fixRecipe(row.recipe, fix) })}
        />
      )}
      <div className="border-rule bg-sheet fixed inset-x-0 bottom-0 z-20 border-t py-2">
        <div className="mx-auto flex max-w-6xl items-center gap-4 px-5 2xl:max-w-[90rem]">
          <input
            aria-label="Name of the batch"
            placeholder="Name it, if it helps"
            value={name}
            onChange={(event) => setName(event.target.value)}
            className="border-rule bg-paper w-64 rounded border px-2 py-1"
          />
          <span className="ml-auto" data-testid="batch-files">
            {plan ? count(plan.files, 'file', 'files') : ''}
          </span>
          <Button look="main" hotkey="Q" disabled={!isReady} onClick={() => order.mutate(name)}>
            {order.isPending ? 'Queueing …' : 'Queue them'}
          </Button>
        </div>
      </div>
    </main>
  );
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

function briefOf(making: Making): string | null {
  return making.kind === 'brief' ? making.id : null;
}

function keyOf({ programmeId, recipe }: Pick<BatchOrder, 'programmeId' | 'recipe'>): string {
  return `${programmeId} ${recipe.name}`;
}

function hasChanges(rows: readonly BatchPlanRow[], changes: Changes): boolean {
  return rows.some((row) => changes[keyOf(row)] !== undefined);
}

function ordersOf(rows: readonly BatchPlanRow[], changes: Changes): BatchOrder[] {
  return rows.map((row) => {
    const { recipe = row.recipe, isLeftOut = false } = changes[keyOf(row)] ?? {};
    return { programmeId: row.programmeId, recipe, portion: row.portion, isLeftOut };
  });
}
