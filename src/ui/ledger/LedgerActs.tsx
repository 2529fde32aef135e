import { Clipboard, Download, Eye, Pencil, RotateCcw, Trash2 } from 'lucide-react';
import Link from 'next/link';
import { useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import type { LedgerRow } from '../../contract/ledger.ts';
import { fileOfRendition } from '../hooks/api.ts';
import { useFileWork } from '../hooks/ledgerQueries.ts';
import { Button } from '../kit/Button.tsx';
import { Hint } from '../kit/Hint.tsx';
import { DeleteSheet, RenameSheet } from './FileSheets.tsx';

const LOOK = 'text-quiet hover:bg-sunk hover:text-ink inline-flex rounded p-1.5';

/** What can be done with an entry: look, fetch, copy its path, rename, make again, delete its file. */
export function LedgerActs({ row }: { readonly row: LedgerRow }) {
  const { rename, remove, again } = useFileWork();
  const [asked, setAsked] = useState<'rename' | 'delete' | null>(null);
  if (row.isForgotten) return null;
  const { id, name, path } = row;
  const isThere = row.file === 'there';
  const copyPath = () => void navigator.clipboard.writeText(path).then(() => toast(`Copied: ${path}`));
  return (
    <>
      {isThere && row.ssim !== null && (
        <Hint text="Compare on the viewing desk">
          <Link href={`/desk/${id}`} aria-label={`Look at ${name}`} className={LOOK}>
            <Eye aria-hidden="true" size={16} />
          </Link>
        </Hint>
      )}
      {isThere && (
        <>
          <Hint text="Download the file">
            <a href={`${fileOfRendition(id)}?download`} aria-label={`Download ${name}`} className={LOOK}>
              <Download aria-hidden="true" size={16} />
            </a>
          </Hint>
          <Act text="Copy its path" label={`Copy the path of ${name}`} onAct={copyPath}>
            <Clipboard aria-hidden="true" size={16} />
          </Act>
          <Act text="Rename the file" label={`Rename ${name}`} onAct={() => setAsked('rename')}>
            <Pencil aria-hidden="true" size={16} />
          </Act>
        </>
      )}
      <Act text="Make it again" label={`Make ${name} again`} onAct={() => again.mutate(id)}>
        <RotateCcw aria-hidden="true" size={16} />
      </Act>
      {isThere && (
        <Act text="Delete the file" label={`Delete ${name}`} onAct={() => setAsked('delete')}>
          <Trash2 aria-hidden="true" size={16} />
        </Act>
      )}
      {asked === 'rename' && (
        <RenameSheet row={row} onLeave={() => setAsked(null)} onTake={(next) => rename.mutate({ id, name: next })} />
      )}
      {asked === 'delete' && <DeleteSheet row={row} onLeave={() => setAsked(null)} onTake={() => remove.mutate(id)} />}
    </>
  );
}

interface ActProps {
  readonly text: string;
  readonly label: string;
  readonly onAct: () => void;
  readonly children: ReactNode;
}

function Act({ text, label, onAct, children }: ActProps) {
  return (
    <Hint text={text}>
      <Button look="quiet" className="!p-1.5" aria-label={label} onClick={onAct}>
        {children}
      </Button>
    </Hint>
  );
}
