import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { ArrowUpToLine, CopyPlus, GripVertical, Pause, Play } from 'lucide-react';
import Link from 'next/link';
import type { RenditionSummary } from '../../contract/views.ts';
import { useBatchStop, useQueueWork } from '../hooks/batchQueries.ts';
import { Button } from '../kit/Button.tsx';
import { Hint } from '../kit/Hint.tsx';
import { MiddleCut } from '../kit/MiddleCut.tsx';
import { RenditionProgress } from '../renditions/RenditionProgress.tsx';

/** What runs, and what waits in the order of its turn, which dragging or the keys change. */
export function QueueRows({ rows }: { readonly rows: readonly RenditionSummary[] }) {
  const { rendition, batchToFront, again } = useQueueWork();
  const waiting = rows.filter(({ state }) => state === 'queued');
  const running = rows.filter(({ state }) => state !== 'queued');
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const hold = (one: RenditionSummary) => rendition.mutate({ id: one.id, paused: !one.paused });
  return (
    <>
      <ul>
        {running.map((one) => (
          <li key={one.id} className="border-rule border-b py-2" data-testid="running">
            <RowHead rendition={one} onHold={() => hold(one)} />
            <RenditionProgress rendition={one} />
          </li>
        ))}
      </ul>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={({ active, over }) => {
          const position = waiting.findIndex(({ id }) => id === over?.id);
          if (over && active.id !== over.id) rendition.mutate({ id: String(active.id), position });
        }}
      >
        <SortableContext items={waiting.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
          <ul>
            {waiting.map((one, index) => (
              <Waiting
                key={one.id}
                rendition={one}
                batchBefore={waiting[index - 1]?.batch?.id ?? null}
                place={index}
                onDouble={() => again.mutate(one.id)}
                onFront={() => rendition.mutate({ id: one.id, position: 0 })}
                onHold={() => hold(one)}
                onBatchFront={() => one.batch && batchToFront.mutate(one.batch.id)}
              />
            ))}
          </ul>
        </SortableContext>
      </DndContext>
    </>
  );
}

interface WaitingProps {
  readonly rendition: RenditionSummary;
  /** The batch of the row above. */
  readonly batchBefore: string | null;
  /** Among those that wait, from 0. */
  readonly place: number;
  readonly onDouble: () => void;
  readonly onFront: () => void;
  readonly onHold: () => void;
  readonly onBatchFront: () => void;
}

function Waiting({ rendition, batchBefore, place, onDouble, onFront, onHold, onBatchFront }: WaitingProps) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: rendition.id });
  const { batch } = rendition;
  return (
    <>
      {batch && batch.id !== batchBefore && <BatchHead batch={batch} onFront={place > 0 ? onBatchFront : null} />}
      <li
        ref={setNodeRef}
        style={{ transform: CSS.Transform.toString(transform), transition }}
        className="border-rule flex items-start gap-2 border-b py-2"
        data-testid="waiting"
      >
        <button
          type="button"
          aria-label={`Move ${rendition.name}`}
          className="text-quiet hover:text-ink mt-1 cursor-grab"
          {...attributes}
          {...listeners}
        >
          <GripVertical aria-hidden="true" size={16} />
        </button>
        <div className="min-w-0 grow">
          <RowHead rendition={rendition} onHold={onHold}>
            <Hint text="Once more, the same">
              <Button look="quiet" className="!p-1.5" aria-label={`Double ${rendition.name}`} onClick={onDouble}>
                <CopyPlus aria-hidden="true" size={16} />
              </Button>
            </Hint>
            {place > 0 && (
              <Hint text="To the front of the line">
                <Button look="quiet" className="!p-1.5" aria-label={`${rendition.name} to the front`} onClick={onFront}>
                  <ArrowUpToLine aria-hidden="true" size={16} />
                </Button>
              </Hint>
            )}
          </RowHead>
          {rendition.problem && <p className="text-wrong text-sm">{rendition.problem.message}</p>}
          <RenditionProgress rendition={rendition} place={place} />
        </div>
      </li>
    </>
  );
}

interface BatchHeadProps {
  readonly batch: NonNullable<RenditionSummary['batch']>;
  /** null where it is there. */
  readonly onFront: (() => void) | null;
}

function BatchHead({ batch: { id, name }, onFront }: BatchHeadProps) {
  const stop = useBatchStop(id);
  return (
    <li className="text-quiet flex items-baseline gap-3 pt-3 text-sm">
      <Link href={`/batches/${id}`} className="underline underline-offset-4">
        {name}
      </Link>
      {onFront && (
        <button type="button" className="hover:text-ink underline underline-offset-4" onClick={onFront}>
          To the front
        </button>
      )}
      <button
        type="button"
        className="hover:text-ink underline underline-offset-4"
        disabled={stop.isPending}
        onClick={() => stop.mutate()}
      >
        Stop this batch
      </button>
    </li>
  );
}

interface HeadProps {
  readonly rendition: RenditionSummary;
  readonly onHold: () => void;
  readonly children?: React.ReactNode;
}

function RowHead({ rendition, onHold, children }: HeadProps) {
  const { paused, name } = rendition;
  return (
    <div className="flex min-w-0 items-center gap-3">
      <Link
        href={`/programmes/${rendition.programmeId}`}
        className="min-w-0 font-semibold underline-offset-4 hover:underline"
      >
        <MiddleCut text={name} />
      </Link>
      <span className="text-quiet min-w-0 grow truncate">{rendition.sentence}</span>
      {children}
      <Hint text={paused ? 'Let it go on' : 'Let it stand still'}>
        <Button
          look="quiet"
          className="!p-1.5"
          aria-label={paused ? `Let ${name} go on` : `Pause ${name}`}
          aria-pressed={paused}
          onClick={onHold}
        >
          {paused ? <Play aria-hidden="true" size={16} /> : <Pause aria-hidden="true" size={16} />}
        </Button>
      </Hint>
    </div>
  );
}
