'use client';

import { Download } from 'lucide-react';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { toast } from 'sonner';
import { SHELF_KINDS, type ShelfKind } from '../../core/shelf/shelf.ts';
import type { BatchRequest } from '../../contract/batch.ts';
import { api, fileOfRendition, isUnderway } from '../hooks/api.ts';
import { useBatch } from '../hooks/batchQueries.ts';
import { useAdvisoriesOf } from '../hooks/queries.ts';
import { useShelf } from '../hooks/shelfQueries.ts';
import { Button } from '../kit/Button.tsx';
import { Notice } from '../kit/Notice.tsx';
import { formatBytes } from '../kit/format.ts';
import { startUpload } from '../uploads/uploadStore.ts';
import { UploadList } from '../uploads/UploadList.tsx';

interface Props {
  readonly kind: ShelfKind;
  readonly id: string;
}

/** A small page of one recipe, bundle or brief, by what its address says. */
export function DropPage({ kind, id }: { readonly kind: string; readonly id: string }) {
  const known = SHELF_KINDS.find((one) => one === kind);
  if (known) return <DropPlace kind={known} id={id} />;
  return <Unknown what={kind} />;
}

function Unknown({ what }: { readonly what: string }) {
  return (
    <main className="mx-auto max-w-2xl px-5 py-5">
      <Notice kind="wrong" role="alert">
        There is no such {what} any more.
      </Notice>
    </main>
  );
}

/** Files are dropped on it, and what was made of them is handed back. */
function DropPlace({ kind, id }: Props) {
  const { data: items } = useShelf(`${kind}s`);
  const item = items?.find((one) => one.id === id);
  const [batchIds, setBatchIds] = useState<readonly string[]>([]);
  const make = (programmeId: string) => {
    api.askBatch({ programmeIds: [programmeId], ...wantedOf(kind, id) }).then(
      (batch) => setBatchIds((known) => [batch.id, ...known]),
      (error: unknown) => toast.error(error instanceof Error ? error.message : 'It could not be queued.'),
    );
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDropAccepted: (files) => files.forEach((file) => startUpload(file, null, make)),
  });
  if (items && !item) return <Unknown what={kind} />;
  return (
    <main className="mx-auto max-w-2xl px-5 py-5" {...getRootProps({ role: undefined })}>
      <input {...getInputProps({ 'aria-label': 'Files to make something of' })} />
      <h1 className="text-2xl font-semibold">{item?.name ?? '…'}</h1>
      <p className="text-quiet mb-3">{item?.notes}</p>
      <div
        className={`mb-4 rounded border-2 border-dashed px-4 py-12 text-center ${isDragActive ? 'border-ember bg-ember-soft' : 'border-rule'}`}
        data-testid="drop-place"
      >
        <p className="mb-2">{isDragActive ? 'Let go' : 'Drop masters here'}</p>
        <Button look="main" onClick={open}>
          Choose files
        </Button>
      </div>
      <UploadList />
      {batchIds.map((batchId) => (
        <HandedBack key={batchId} id={batchId} />
      ))}
    </main>
  );
}

function wantedOf(kind: ShelfKind, id: string): Partial<BatchRequest> {
  switch (kind) {
    case 'recipe':
      return { recipes: [id] };
    case 'bundle':
      return { bundleId: id };
    case 'brief':
      return { briefId: id };
  }
}

/** What is made of one file that was dropped, and its key to fetch it. */
function HandedBack({ id }: { readonly id: string }) {
  const { data: batch } = useBatch(id);
  if (!batch) return null;
  return (
    <ul>
      {batch.rows.map((row, index) => (
        <li key={index} className="border-rule flex items-center gap-3 border-b py-2" data-testid="handed-back">
          <span className="min-w-0 grow">
            <span className="block truncate font-semibold">{row.name ?? row.programmeName}</span>
            <span className="text-quiet block truncate text-sm">{row.reason ?? row.sentence}</span>
            {row.state === 'done' && row.renditionId && <StillInIt renditionId={row.renditionId} />}
          </span>
          {row.state === 'done' && row.renditionId ? (
            <a
              href={`${fileOfRendition(row.renditionId)}?download`}
              className="bg-ember text-on-ember inline-flex shrink-0 items-center gap-2 rounded px-3 py-1 font-semibold"
            >
              <Download aria-hidden="true" size={16} /> {formatBytes(row.bytes ?? 0)}
            </a>
          ) : (
            <span className={row.state === 'failed' || row.state === 'left-out' ? 'text-wrong' : 'text-quiet'}>
              {wordOf(row.state, row.fraction)}
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}

/** What is to be known before it is sent on. */
function StillInIt({ renditionId }: { readonly renditionId: string }) {
  const { data: advisories = [] } = useAdvisoriesOf(renditionId);
  return advisories.map(({ code, message }) => (
    <span key={code} className="block text-sm" data-testid="still-in-it">
      <span aria-hidden="true">▲ </span>
      {message}
    </span>
  ));
}

function wordOf(state: string, fraction: number): string {
  if (state === 'failed') return '✕ failed';
  if (state === 'left-out') return '✕ cannot be made';
  if (state === 'stopped') return '■ stopped';
  return isUnderway(state) ? `${Math.round(fraction * 100)} %` : 'waits';
}
