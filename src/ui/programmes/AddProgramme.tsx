import { ArrowUp, File, Folder, Upload } from 'lucide-react';
import { useState } from 'react';
import type { MediaListing } from '../../contract/views.ts';
import { useMedia, useTakeIn } from '../hooks/queries.ts';
import { Button } from '../kit/Button.tsx';
import { formatBytes } from '../kit/format.ts';
import { Notice } from '../kit/Notice.tsx';
import { Sheet } from '../kit/Sheet.tsx';

interface Props {
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
  /** Opens the browser's own file dialogue. */
  readonly onUpload: () => void;
}

/** Takes masters in: by browsing the media folders, by pasting paths, or from this machine. */
export function AddProgramme({ isOpen, onOpenChange, onUpload }: Props) {
  return (
    <Sheet
      isOpen={isOpen}
      onOpenChange={onOpenChange}
      title="Add programmes"
      description="From the media folders of this server. A master is read, never changed."
    >
      <TakeIn onBegun={() => onOpenChange(false)} />
      <p className="text-quiet mt-3 flex items-center gap-2">
        Not on the server’s disks?
        <Button onClick={onUpload}>
          <Upload aria-hidden="true" size={15} /> Upload files
        </Button>
        or drop them anywhere on the list of programmes.
      </p>
    </Sheet>
  );
}

function TakeIn({ onBegun }: { readonly onBegun: () => void }) {
  const [folder, setFolder] = useState<string | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [subfolders, setSubfolders] = useState(false);
  const [pasted, setPasted] = useState('');
  const { data: listing, error } = useMedia(folder);
  const takeIn = useTakeIn();
  const paths = [
    ...chosen,
    ...pasted
      .split('\n')
      .map((line) => line.trim().replace(/^(["'])(.*)\1$/, '$2'))
      .filter(Boolean),
  ];
  const toggle = (path: string) => {
    const next = new Set(chosen);
    if (!next.delete(path)) next.add(path);
    setChosen(next);
  };
  const begin = (wanted: readonly string[]) => takeIn.mutate({ paths: wanted, subfolders }, { onSuccess: onBegun });
  return (
    <>
      <div className="mb-2 flex items-center gap-2">
        <Button
          aria-label="Up one folder"
          disabled={folder === null}
          onClick={() => setFolder(listing?.parent ?? null)}
        >
          <ArrowUp aria-hidden="true" size={16} />
        </Button>
        <span className="figure text-quiet truncate">{folder ?? 'Media folders'}</span>
        {folder !== null && (
          <Button className="ml-auto shrink-0" disabled={takeIn.isPending} onClick={() => begin([folder])}>
            Take in this whole folder
          </Button>
        )}
      </div>
      {(error ?? takeIn.error) && (
        <Notice kind="wrong" role="alert">
          {(takeIn.error ?? error)?.message}
        </Notice>
      )}
      <ul className="border-rule max-h-72 min-h-32 overflow-y-auto border-y">
        {listing?.entries.length === 0 && <li className="text-quiet py-6 text-center">This folder is empty.</li>}
        {listing?.entries.map((entry) => (
          <Entry
            key={entry.path}
            entry={entry}
            isChosen={chosen.has(entry.path)}
            onOpen={setFolder}
            onToggle={() => toggle(entry.path)}
          />
        ))}
      </ul>
      <label className="mt-3 block">
        <span className="text-quiet block text-sm">Or paths of files and folders, one a line</span>
        <textarea
          value={pasted}
          onChange={(event) => setPasted(event.target.value)}
          rows={2}
          spellCheck={false}
          className="figure border-rule bg-paper w-full rounded border px-2 py-1"
        />
      </label>
      <div className="mt-2 flex items-center gap-4">
        <Button look="main" disabled={paths.length === 0 || takeIn.isPending} onClick={() => begin(paths)}>
          {paths.length > 1 ? `Take in ${paths.length}` : 'Take in'}
        </Button>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={subfolders} onChange={(event) => setSubfolders(event.target.checked)} />
          Folders inside folders too
        </label>
      </div>
    </>
  );
}

interface EntryProps {
  readonly entry: MediaListing['entries'][number];
  readonly isChosen: boolean;
  readonly onOpen: (folder: string) => void;
  readonly onToggle: () => void;
}

function Entry({ entry, isChosen, onOpen, onToggle }: EntryProps) {
  const isFolder = entry.kind === 'folder';
  const Icon = isFolder ? Folder : File;
  const isIn = entry.programmeId !== null;
  return (
    <li className="border-rule flex items-center border-b last:border-0">
      <input
        type="checkbox"
        aria-label={`Choose ${entry.name}`}
        checked={isChosen}
        disabled={isIn}
        onChange={onToggle}
        className="ml-2"
      />
      <button
        type="button"
        disabled={isIn}
        onClick={() => (isFolder ? onOpen(entry.path) : onToggle())}
        className="enabled:hover:bg-sunk disabled:text-quiet flex min-w-0 grow items-center gap-3 px-2 py-1.5 text-left -outline-offset-2"
      >
        <Icon aria-hidden="true" size={17} className="text-quiet shrink-0" />
        <span className="truncate">{entry.name}</span>
        <span className="figure ml-auto shrink-0">
          {isIn ? 'already in' : entry.bytes === null ? '' : formatBytes(entry.bytes)}
        </span>
      </button>
    </li>
  );
}
