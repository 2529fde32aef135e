import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragCancelEvent,
  type DragEndEvent,
  type DragOverEvent,
  type DragStartEvent,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical, X } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { AnalysisView, PortionView, ProgrammeView } from '../../contract/views.ts';
import type { Portion } from '../../core/programme/facts.ts';
import { useWorkKey } from '../hooks/useWorkKey.ts';
import { Button } from '../kit/Button.tsx';
import { Hint } from '../kit/Hint.tsx';
import { PositionField } from '../player/PositionField.tsx';
import type { Player } from '../player/usePlayer.ts';
import type { Timeline } from '../player/timeline.ts';
import { addPortion, changePortion, reorderPortion, sceneAround, setEnd } from './spans.ts';

interface Props {
  readonly programme: ProgrammeView;
  readonly analysis: AnalysisView | undefined;
  readonly player: Player;
  readonly portions: readonly PortionView[];
  readonly selected: string | null;
  readonly onSelect: (id: string | null) => void;
  readonly onChange: (portions: readonly PortionView[]) => void;
}

/** Which portions of a programme are meant; none means the whole. */
export function PortionSection(props: Props) {
  const { analysis, player, portions, selected, onSelect, onChange } = props;
  const { timeline, frame } = player;
  const current = portions.find(({ id }) => id === selected) ?? portions[0];
  const put = (span: { inFrame: number; outFrame: number }) => {
    if (current) return onChange(changePortion(portions, current.id, span));
    add(span);
  };
  const add = (span: { inFrame: number; outFrame: number }) => {
    const [next, added] = addPortion(portions, span);
    onChange(next);
    onSelect(added.id);
  };
  const whole = { inFrame: 0, outFrame: timeline.frames - 1 };
  const set = (end: 'in' | 'out') => put(told(setEnd(current ?? whole, end, frame, timeline.frames), end, timeline));
  const setIn = () => set('in');
  const setOut = () => set('out');
  useWorkKey('i', setIn);
  useWorkKey('o', setOut);
  useWorkKey('shift+i', () => current && player.seek(current.inFrame));
  useWorkKey('shift+o', () => current && player.seek(current.outFrame));
  const ends = endsOf(props);
  const scene = analysis?.sceneChanges ? sceneAround(analysis.sceneChanges, frame, timeline.frames) : null;
  return (
    <section aria-labelledby="portion-heading" className="mt-3">
      <div className="flex flex-wrap items-center gap-2">
        <h2 id="portion-heading" className="mr-2 font-semibold">
          {portions.length > 1 ? `${portions.length} portions, a rendition each` : 'Portion'}
        </h2>
        <Button hotkey="I" onClick={setIn}>
          In here
        </Button>
        <Button hotkey="O" onClick={setOut}>
          Out here
        </Button>
        {scene && (
          <Button onClick={() => put(scene)} title="From the scene change before the playhead to the one after it">
            This scene
          </Button>
        )}
        {ends && <Button onClick={() => put(ends)}>Trim black and silence</Button>}
        <Button
          onClick={() => add(scene ?? { inFrame: frame, outFrame: whole.outFrame })}
          disabled={portions.length === 0}
        >
          Add another
        </Button>
        <Button look="quiet" disabled={portions.length === 0} onClick={() => onChange([])}>
          Take the whole programme
        </Button>
      </div>
      {portions.length > 0 && <PortionList {...props} current={current?.id ?? null} />}
    </section>
  );
}

/** Says when the other end had to move along. */
function told(
  { inFrame, outFrame, hasMoved }: ReturnType<typeof setEnd>,
  end: 'in' | 'out',
  { name }: Timeline,
): Portion {
  if (hasMoved) {
    toast(
      end === 'in'
        ? `In was set after out, so the portion moved along; it ends at ${name(outFrame)} now.`
        : `Out was set before in, so the portion moved along; it begins at ${name(inFrame)} now.`,
    );
  }
  return { inFrame, outFrame };
}

function endsOf({ programme, analysis }: Props) {
  const fix = analysis?.advisories.find(({ code }) => code === 'black-ends')?.fix;
  return programme.video && fix?.kind === 'portion' ? fix.portion : null;
}

function PortionList({ player, portions, onChange, onSelect, current }: Props & { readonly current: string | null }) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const [from, to] = [active.id, over.id].map((id) => portions.findIndex((portion) => portion.id === id));
    if (from !== undefined && to !== undefined) onChange(reorderPortion(portions, from, to));
  };
  return (
    <DndContext
      id="portions"
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={drop}
      accessibility={announcing(portions)}
    >
      <SortableContext items={portions.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
        <ul className="border-rule mt-2 max-w-[60rem] border-t">
          {portions.map((portion) => (
            <PortionRow
              key={portion.id}
              portion={portion}
              timeline={player.timeline}
              isCurrent={portion.id === current}
              isAlone={portions.length === 1}
              onSelect={() => onSelect(portion.id)}
              onChange={(change) => onChange(changePortion(portions, portion.id, change))}
              onRemove={() => onChange(portions.filter(({ id }) => id !== portion.id))}
            />
          ))}
        </ul>
      </SortableContext>
    </DndContext>
  );
}

/** What a screen reader says while a portion is moved in the list. */
function announcing(portions: readonly PortionView[]) {
  const nameOf = (id: string | number) => portions.find((portion) => portion.id === id)?.name ?? 'The portion';
  const placeOf = (id: string | number | undefined) =>
    `${portions.findIndex((portion) => portion.id === id) + 1} of ${portions.length}`;
  return {
    screenReaderInstructions: {
      draggable:
        'Press Space to take hold of it, the arrows to move it, Space to let go, Escape to leave it where it was.',
    },
    announcements: {
      onDragStart: ({ active }: DragStartEvent) => `${nameOf(active.id)} is held; it is ${placeOf(active.id)}.`,
      onDragOver: ({ active, over }: DragOverEvent) =>
        over ? `${nameOf(active.id)} would be ${placeOf(over.id)}.` : `${nameOf(active.id)} is beside the list.`,
      onDragEnd: ({ active, over }: DragEndEvent) => `${nameOf(active.id)} is ${placeOf(over?.id ?? active.id)} now.`,
      onDragCancel: ({ active }: DragCancelEvent) => `${nameOf(active.id)} stays where it was.`,
    },
  };
}

interface RowProps {
  readonly portion: PortionView;
  readonly timeline: Timeline;
  readonly isCurrent: boolean;
  readonly isAlone: boolean;
  readonly onSelect: () => void;
  readonly onChange: (change: Partial<Omit<PortionView, 'id'>>) => void;
  readonly onRemove: () => void;
}

function PortionRow({ portion, timeline, isCurrent, isAlone, onSelect, onChange, onRemove }: RowProps) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: portion.id });
  const [name, setName] = useState<string | null>(null);
  const { inFrame, outFrame } = portion;
  const frames = outFrame - inFrame + 1;
  const seconds = timeline.clock.secondsOf(outFrame + 1) - timeline.clock.secondsOf(inFrame);
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      onFocusCapture={onSelect}
      onPointerDown={onSelect}
      className={`border-rule flex flex-wrap items-center gap-3 border-b px-2 py-1 ${isCurrent ? 'bg-ember-soft' : ''}`}
      data-testid="portion-row"
    >
      {!isAlone && (
        <Hint text="Drag, or Space and the arrows, to put it elsewhere">
          <button
            type="button"
            aria-label={`Move ${portion.name}`}
            className="cursor-grab touch-none"
            {...attributes}
            {...listeners}
          >
            <GripVertical aria-hidden="true" size={15} />
          </button>
        </Hint>
      )}
      <input
        aria-label="Name of the portion"
        value={name ?? portion.name}
        maxLength={120}
        onChange={(event) => setName(event.target.value)}
        onBlur={() => {
          if (name?.trim() && name.trim() !== portion.name) onChange({ name: name.trim() });
          setName(null);
        }}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        className="border-rule bg-paper w-44 rounded border px-1.5 py-0.5"
      />
      <PositionField
        label={`In point of ${portion.name}`}
        value={timeline.name(inFrame)}
        frame={inFrame}
        timeline={timeline}
        onFrame={(frame) => onChange(told(setEnd(portion, 'in', frame, timeline.frames), 'in', timeline))}
        className="w-32"
      />
      <span className="text-quiet">to</span>
      <PositionField
        label={`Out point of ${portion.name}`}
        value={timeline.name(outFrame)}
        frame={outFrame}
        timeline={timeline}
        onFrame={(frame) => onChange(told(setEnd(portion, 'out', frame, timeline.frames), 'out', timeline))}
        className="w-32"
      />
      <span className="text-quiet text-sm">
        both included: <span className="figure">{frames.toLocaleString('en')}</span> frames,{' '}
        <span className="figure">{seconds.toFixed(2)} s</span>,{' '}
        <span className="figure">{((100 * seconds) / timeline.seconds).toFixed(1)} %</span>
      </span>
      <Hint text="Remove this portion">
        <Button look="quiet" aria-label={`Remove ${portion.name}`} className="ml-auto" onClick={onRemove}>
          <X aria-hidden="true" size={15} />
        </Button>
      </Hint>
    </li>
  );
}
