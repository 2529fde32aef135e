'use client';

import { Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { ProgrammeSummary } from '../../contract/views.ts';
import { useDropzone } from 'react-dropzone';
import { hasWords } from '../../core/text.ts';
import { useProgrammes } from '../hooks/queries.ts';
import { useActKey } from '../hooks/useWorkKey.ts';
import { Button } from '../kit/Button.tsx';
import { count } from '../kit/count.ts';
import { Notice } from '../kit/Notice.tsx';
import { startUpload } from '../uploads/uploadStore.ts';
import { UploadList } from '../uploads/UploadList.tsx';
import { AddProgramme } from './AddProgramme.tsx';
import { ChoosingBar } from './ChoosingBar.tsx';
import { useChoosing } from './useChoosing.ts';
import { ProgrammeTable } from './ProgrammeTable.tsx';
import { TakeInList } from './TakeInList.tsx';

/** Everything taken in, in a list that reads at a glance; files dropped on it are uploaded. */
export function ProgrammesPage() {
  const { data: programmes, error, isPending } = useProgrammes();
  const [isAdding, setAdding] = useState(false);
  // Without that the letter would go into the sheet's first field.
  useActKey('a', () => setAdding(true));
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDropAccepted: (files) => {
      setAdding(false);
      files.forEach((file) => startUpload(file, null));
    },
  });
  return (
    <main className="mx-auto min-h-[80vh] max-w-6xl px-5 py-5 2xl:max-w-[90rem]" {...getRootProps({ role: undefined })}>
      <input {...getInputProps({ 'aria-label': 'Files to upload' })} />
      <div className="mb-3 flex items-baseline gap-4">
        <h1 className="text-2xl font-semibold">Programmes</h1>
        {programmes && <span className="text-quiet">{count(programmes.length, 'master', 'masters')}</span>}
        <Button look="main" className="ml-auto" hotkey="A" onClick={() => setAdding(true)}>
          <Plus aria-hidden="true" size={16} /> Add programmes
        </Button>
      </div>
      {isDragActive && (
        <p
          className="border-ember bg-ember-soft mb-3 rounded border-2 border-dashed px-3 py-6 text-center"
          role="status"
        >
          Let go to upload into the first media folder
        </p>
      )}
      <UploadList />
      <TakeInList />
      {error && (
        <Notice kind="wrong" role="alert">
          {error.message}
        </Notice>
      )}
      {isPending && <p className="text-quiet">Reading the list …</p>}
      {programmes?.length === 0 && (
        <p className="text-quiet max-w-[44rem] py-10">
          Nothing has been taken in yet. Add a finished master from a media folder, or drop a file here to upload it; a
          master is only read, never changed.
        </p>
      )}
      {programmes && programmes.length > 0 && <Listed programmes={programmes} />}
      <AddProgramme isOpen={isAdding} onOpenChange={setAdding} onUpload={open} />
    </main>
  );
}

/** The list with what is looked for in it, and what is chosen. */
function Listed({ programmes }: { readonly programmes: readonly ProgrammeSummary[] }) {
  const [words, setWords] = useState('');
  const listed = useMemo(() => programmes.filter(({ name }) => hasWords(name, words)), [programmes, words]);
  const choosing = useChoosing(useMemo(() => listed.map(({ id }) => id), [listed]));
  return (
    <>
      <ChoosingBar
        listed={listed}
        unmade={listed.filter(({ isMade, state }) => !isMade && state === 'ready')}
        choosing={choosing}
        words={words}
        onWords={setWords}
      />
      {listed.length === 0 && <p className="text-quiet py-6">No programme is called so.</p>}
      <ProgrammeTable programmes={listed} choosing={choosing} />
    </>
  );
}
