import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { SystemView } from '../../contract/views.ts';
import { api } from '../hooks/api.ts';
import { Button } from '../kit/Button.tsx';
import { Hint } from '../kit/Hint.tsx';
import { FolderDefaultsForm } from './FolderDefaultsForm.tsx';
import { Notice } from '../kit/Notice.tsx';

/** Where masters are looked for and where renditions go; what the environment sets is only shown. */
export function FoldersSection({ system }: { readonly system: SystemView }) {
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: api.saveFolders,
    onSuccess: (next) => {
      client.setQueryData<SystemView>(['system'], next);
      void client.invalidateQueries({ queryKey: ['media'] });
      toast('Kept in linstock.config.json in the data folder.');
    },
  });
  const { mediaFolders, outputFolder, fixed } = system;
  return (
    <section className="mb-6 max-w-[60rem]" data-testid="folders">
      <h2 className="text-lg font-semibold">Folders</h2>
      <h3 className="text-quiet mt-1 text-sm">Media: masters are read from these and the folders in them</h3>
      <ul>
        {mediaFolders.map((folder) => (
          <li key={folder} className="border-rule flex flex-wrap items-center gap-x-3 border-b py-0.5">
            <span className="figure grow break-all">{folder}</span>
            <FolderDefaultsForm folder={folder} />
            {!fixed.media && mediaFolders.length > 1 && (
              <Hint text="Take this folder out; nothing in it is touched">
                <Button
                  look="quiet"
                  className="!p-1.5"
                  aria-label={`Take ${folder} out`}
                  onClick={() => save.mutate({ mediaFolders: mediaFolders.filter((one) => one !== folder) })}
                >
                  <Trash2 aria-hidden="true" size={16} />
                </Button>
              </Hint>
            )}
          </li>
        ))}
      </ul>
      {fixed.media ? (
        <p className="text-quiet text-sm">Set by LINSTOCK_MEDIA in the environment; change it there.</p>
      ) : (
        <FolderForm
          label="Another media folder"
          action="Add this folder"
          start=""
          onTake={(folder) => save.mutateAsync({ mediaFolders: [...mediaFolders, folder] })}
        />
      )}
      <h3 className="text-quiet mt-3 text-sm">Renditions go to</h3>
      {fixed.output ? (
        <p>
          <span className="figure break-all">{outputFolder}</span>{' '}
          <span className="text-quiet text-sm">set by LINSTOCK_OUTPUT in the environment; change it there.</span>
        </p>
      ) : (
        <FolderForm
          key={outputFolder}
          label="Folder for renditions"
          action="Use this folder"
          start={outputFolder}
          onTake={(folder) => save.mutateAsync({ outputFolder: folder })}
        />
      )}
      {save.error && (
        <div className="mt-2">
          <Notice kind="wrong" role="alert">
            {save.error.message}
          </Notice>
        </div>
      )}
    </section>
  );
}

interface FormProps {
  readonly label: string;
  readonly action: string;
  readonly start: string;
  readonly onTake: (folder: string) => Promise<unknown>;
}

function FolderForm({ label, action, start, onTake }: FormProps) {
  const [typed, setTyped] = useState(start);
  const folder = typed.trim();
  const take = () => {
    // The reason for a refusal stands below; what was typed stays to be mended.
    onTake(folder).then(
      () => setTyped(start),
      () => undefined,
    );
  };
  return (
    <form
      className="mt-1.5 flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        take();
      }}
    >
      <input
        aria-label={label}
        placeholder="/path/of/a/folder"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        className="figure border-rule bg-paper min-w-0 grow rounded border px-2 py-0.5"
      />
      <Button type="submit" disabled={folder === '' || folder === start}>
        {action}
      </Button>
    </form>
  );
}
