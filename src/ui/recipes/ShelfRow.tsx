import { ArrowDown, ArrowUp, Copy, Pencil, Star, Trash2 } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import type { ShelfItem } from '../../core/shelf/shelf.ts';
import { Button } from '../kit/Button.tsx';
import { Hint } from '../kit/Hint.tsx';

/** What can be changed of any item in its row. */
type RowChange = Partial<Pick<ShelfItem, 'name' | 'notes' | 'starred'>> & { readonly tags?: readonly string[] };

interface Props {
  readonly item: ShelfItem;
  readonly sentence: string;
  readonly onChange: (change: RowChange) => void;
  readonly onMove: (by: -1 | 1) => void;
  readonly onDelete: () => void;
  readonly onDuplicate: () => void;
  readonly children: ReactNode;
}

/** One item: what it is called, what it says, and what can be done with it. */
export function ShelfRow({ item, sentence, onChange, onMove, onDelete, onDuplicate, children }: Props) {
  const [isEdited, setEdited] = useState(false);
  const { name, notes, tags, starred, isStock } = item;
  return (
    <li className="border-rule flex flex-wrap items-start gap-x-3 border-b py-2" data-testid="shelf-row">
      <div className="min-w-64 grow">
        {isEdited ? (
          <RowForm
            item={item}
            onKeep={(change) => {
              onChange(change);
              setEdited(false);
            }}
            onLeave={() => setEdited(false)}
          />
        ) : (
          <>
            <p>
              <span className="font-semibold">{name}</span>
              {isStock && <span className="text-quiet ml-2 text-sm">ships with Linstock</span>}
              {tags.map((tag) => (
                <span key={tag} className="bg-sunk text-quiet ml-2 rounded px-1.5 text-sm">
                  {tag}
                </span>
              ))}
            </p>
            <p className="text-quiet text-sm">{sentence}</p>
            {notes && <p className="text-sm">{notes}</p>}
          </>
        )}
      </div>
      <div className="flex items-center">
        {children}
        {!isStock && (
          <>
            <Act
              text={starred ? 'Take the star off' : 'Star it: it comes first'}
              name={name}
              onAct={() => onChange({ starred: !starred })}
            >
              <Star aria-hidden="true" size={16} className={starred ? 'fill-ember text-ember' : ''} />
            </Act>
            <Act text="Further up" name={name} onAct={() => onMove(-1)}>
              <ArrowUp aria-hidden="true" size={16} />
            </Act>
            <Act text="Further down" name={name} onAct={() => onMove(1)}>
              <ArrowDown aria-hidden="true" size={16} />
            </Act>
            <Act text="Rename, and write notes" name={name} onAct={() => setEdited(!isEdited)}>
              <Pencil aria-hidden="true" size={16} />
            </Act>
          </>
        )}
        <Act text="Duplicate" name={name} onAct={onDuplicate}>
          <Copy aria-hidden="true" size={16} />
        </Act>
        {!isStock && (
          <Act text="Delete" name={name} onAct={onDelete}>
            <Trash2 aria-hidden="true" size={16} />
          </Act>
        )}
      </div>
    </li>
  );
}

interface ActProps {
  readonly text: string;
  readonly name: string;
  readonly onAct: () => void;
  readonly children: ReactNode;
}

function Act({ text, name, onAct, children }: ActProps) {
  return (
    <Hint text={text}>
      <Button look="quiet" className="!p-1.5" aria-label={`${text}: ${name}`} onClick={onAct}>
        {children}
      </Button>
    </Hint>
  );
}

interface FormProps {
  readonly item: ShelfItem;
  readonly onKeep: (change: RowChange) => void;
  readonly onLeave: () => void;
}

function RowForm({ item, onKeep, onLeave }: FormProps) {
  const [name, setName] = useState(item.name);
  const [notes, setNotes] = useState(item.notes);
  const [tags, setTags] = useState(item.tags.join(', '));
  const field = 'border-rule bg-paper w-full rounded border px-2 py-1';
  const listed = tags
    .split(',')
    .map((tag) => tag.trim())
    .filter(Boolean);
  return (
    <form
      className="flex max-w-[36rem] flex-col gap-2"
      onKeyDown={(event) => event.key === 'Escape' && onLeave()}
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) onKeep({ name, notes, tags: listed });
      }}
    >
      <input aria-label="Name" className={field} value={name} onChange={(event) => setName(event.target.value)} />
      <input
        aria-label="Notes"
        placeholder="When it is used"
        className={field}
        value={notes}
        onChange={(event) => setNotes(event.target.value)}
      />
      <input
        aria-label="Tags"
        placeholder="Tags, separated by commas"
        className={field}
        value={tags}
        onChange={(event) => setTags(event.target.value)}
      />
      <span className="flex gap-2">
        <Button look="main" type="submit" disabled={!name.trim()}>
          Keep
        </Button>
        <Button onClick={onLeave}>Leave it</Button>
      </span>
    </form>
  );
}
