'use client';

import Link from 'next/link';
import { useState } from 'react';
import { toast } from 'sonner';
import type { BatchPlan, BatchPlanRow } from '../../contract/batch.ts';
import { useIsInBrowser } from '../hooks/useIsInBrowser.ts';
import { useActKey } from '../hooks/useWorkKey.ts';
import { Button } from '../kit/Button.tsx';
import { count } from '../kit/count.ts';
import { Notice } from '../kit/Notice.tsx';
import { SearchField } from '../kit/SearchField.tsx';
import { groupAdvice } from './adviceGroups.ts';
import { AdviceGroups } from './AdviceGroups.tsx';
import { BatchForeseen } from './BatchForeseen.tsx';
import { BatchPlanTable } from './BatchPlanTable.tsx';
import { readChosen } from './chosenProgrammes.ts';
import { MadeWith } from './MadeWith.tsx';
import { TogetherBar, TogetherField } from './Together.tsx';
import { useBatchOrder, useNewBatch, type NewBatch } from './useNewBatch.ts';

/** What will be made of many programmes, in numbers, before it is queued. */
export function NewBatchPage() {
  const isInBrowser = useIsInBrowser();
  return isInBrowser ? <NewBatch programmeIds={readChosen()} /> : null;
}

function NewBatch({ programmeIds }: { readonly programmeIds: readonly string[] }) {
  const batch = useNewBatch(programmeIds);
  const { order, measure } = useBatchOrder(batch);
  const { making, make, plan, error, isPlanning, isOfAnother } = batch;
  const [name, setName] = useState('');
  const isShared = plan?.together?.by !== null;
  const isReady = plan && plan.files > 0 && isShared && !isOfAnother && !order.isPending;
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
      {plan && <BatchForeseen plan={plan} isOld={isPlanning} onMeasure={() => measure.mutate()} />}
      {plan && <Files key={JSON.stringify(making)} batch={batch} plan={plan} />}
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

/** From so many files on one of them is looked for by its name. */
const MANY_FILES = 12;

/** The files one by one, and what is told of several of them alike. */
function Files({ batch, plan }: { readonly batch: NewBatch; readonly plan: BatchPlan }) {
  const { atFirst, edit, leaveOut, reset, restore, isOfAnother } = batch;
  const [words, setWords] = useState('');
  const [wanted, setWanted] = useState<string | null>(null);
  const groups = groupAdvice(plan.rows);
  const shown = groups.find(({ key }) => key === wanted);
  const found = words.trim().toLocaleLowerCase();
  const isShown = ({ programmeName, recipe }: BatchPlanRow, place: number) =>
    (!shown || shown.rows.includes(place)) && `${programmeName} ${recipe.name}`.toLocaleLowerCase().includes(found);
  const tell = (what: string) => toast(what, { action: { label: 'Undo', onClick: restore } });
  return (
    // What is still of another batch is only looked at.
    <div inert={isOfAnother} aria-busy={isOfAnother}>
      <AdviceGroups
        groups={groups}
        shown={shown?.key ?? null}
        onShow={setWanted}
        onMend={({ fixes }) => {
          edit(fixes);
          tell(`${count(fixes.length, 'file is', 'files are')} mended.`);
        }}
        onLeaveOut={({ rows }) => {
          leaveOut(rows, true);
          tell(`${count(rows.length, 'file is', 'files are')} left out.`);
        }}
      />
      {atFirst.length > MANY_FILES && (
        <SearchField
          label="Find a file"
          placeholder="Programme or recipe"
          words={words}
          onWords={setWords}
          className="mb-2 w-64"
        />
      )}
      <BatchPlanTable
        rows={plan.rows}
        {...{ atFirst, isShown }}
        acts={{
          leaveOut: (place, isLeft) => leaveOut([place], isLeft),
          edit: (row, one) => edit([{ row, edit: one }]),
          reset,
        }}
      />
    </div>
  );
}
