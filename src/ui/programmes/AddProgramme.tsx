import { ArrowUp, File, Folder } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import type { MediaListing } from '../../contract/views.ts';
import { useMedia, useTakeIn } from '../hooks/queries.ts';
import { Button } from '../kit/Button.tsx';
import { formatBytes } from '../kit/format.ts';
import { Notice } from '../kit/Notice.tsx';

/** Browses the media folders on the server and takes files in. */
export function AddProgramme({
  isOpen,
  onOpenChange,
}: {
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
}) {
  return (
    <Dialog.Root open={isOpen} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content className="border-rule bg-sheet text-ink fixed top-[8vh] left-1/2 z-50 flex max-h-[80vh] w-[46rem] -translate-x-1/2 flex-col rounded-md border p-5">
          <Dialog.Title className="text-lg font-semibold">Add a programme</Dialog.Title>
          <Dialog.Description className="text-quiet mb-3">
            From the media folders of this server. A master is read, never changed.
          </Dialog.Description>
          <Browser />
          <Dialog.Close className="border-rule hover:bg-sunk mt-4 self-end rounded border px-3 py-1">
            Close
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Browser() {
  const [folder, setFolder] = useState<string | null>(null);
  const { data: listing, error } = useMedia(folder);
  const takeIn = useTakeIn();
  const take = (path: string) => takeIn.mutate(path, { onSuccess: (programme) => toast(`${programme.name} is in.`) });
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
      </div>
      {(error ?? takeIn.error) && (
        <Notice kind="wrong" role="alert">
          {(takeIn.error ?? error)?.message}
        </Notice>
      )}
      <ul className="border-rule min-h-40 overflow-y-auto border-y">
        {listing?.entries.length === 0 && <li className="text-quiet py-6 text-center">This folder is empty.</li>}
        {listing?.entries.map((entry) => (
          <Entry
            key={entry.path}
            entry={entry}
            isBusy={takeIn.isPending && takeIn.variables === entry.path}
            onOpen={setFolder}
            onTake={take}
          />
        ))}
      </ul>
    </>
  );
}

interface EntryProps {
  readonly entry: MediaListing['entries'][number];
  readonly isBusy: boolean;
  readonly onOpen: (folder: string) => void;
  readonly onTake: (path: string) => void;
}

function Entry({ entry, isBusy, onOpen, onTake }: EntryProps) {
  const Icon = entry.kind === 'folder' ? Folder : File;
  return (
    <li className="border-rule border-b last:border-0">
      <button
        type="button"
        disabled={isBusy || entry.programmeId !== null}
        onClick={() => (entry.kind === 'folder' ? onOpen(entry.path) : onTake(entry.path))}
        className="enabled:hover:bg-sunk disabled:text-quiet flex w-full items-center gap-3 px-2 py-1.5 text-left"
      >
        <Icon aria-hidden="true" size={17} className="text-quiet shrink-0" />
        <span className="truncate">{entry.name}</span>
        <span className="figure ml-auto shrink-0">
          {isBusy
            ? 'looking …'
            : entry.programmeId
              ? 'already in'
              : entry.bytes === null
                ? ''
                : formatBytes(entry.bytes)}
        </span>
      </button>
    </li>
  );
}
