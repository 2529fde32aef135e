import { useState } from 'react';
import type { LedgerRow } from '../../contract/ledger.ts';
import { Button } from '../kit/Button.tsx';
import { formatBytes } from '../kit/format.ts';
import { Sheet } from '../kit/Sheet.tsx';

interface Props<Taken extends unknown[]> {
  readonly row: LedgerRow;
  readonly onLeave: () => void;
  readonly onTake: (...taken: Taken) => void;
}

/** Asks for another name of a finished file. */
export function RenameSheet({ row, onLeave, onTake }: Props<[name: string]>) {
  const [name, setName] = useState(row.name);
  return (
    <Sheet
      isOpen
      onOpenChange={onLeave}
      title="Rename the file"
      description="It stays in its folder; no other file is replaced."
    >
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          onTake(name);
          onLeave();
        }}
      >
        <input
          aria-label="File name"
          className="border-rule bg-paper grow rounded border px-2 py-1"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button look="main" type="submit">
          Rename it
        </Button>
      </form>
    </Sheet>
  );
}

/** Says what goes before a file is deleted. */
export function DeleteSheet({ row, onLeave, onTake }: Props<[]>) {
  return (
    <Sheet
      isOpen
      onOpenChange={onLeave}
      title="Delete the file?"
      description={`${row.path}, ${formatBytes(row.bytes ?? 0)}, goes for good. The entry stays, and it can be made again.`}
    >
      <Button
        look="main"
        className="self-start"
        onClick={() => {
          onTake();
          onLeave();
        }}
      >
        Delete it
      </Button>
    </Sheet>
  );
}
