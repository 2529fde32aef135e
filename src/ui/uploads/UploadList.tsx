import { Pause, Play, X } from 'lucide-react';
import Link from 'next/link';
import { Button } from '../kit/Button.tsx';
import { formatBytes } from '../kit/format.ts';
import { ProgressBar } from '../kit/ProgressBar.tsx';
import { dropUpload, pauseUpload, resumeUpload, useUploads, type UploadState } from './uploadStore.ts';

/** Files on their way to the server. */
export function UploadList() {
  const uploads = useUploads();
  if (uploads.length === 0) return null;
  return (
    <section aria-label="Uploads" className="border-rule bg-sheet mb-3 rounded border px-3 py-2" data-testid="uploads">
      <h2 className="font-semibold">Uploads</h2>
      <ul>
        {uploads.map((upload) => (
          <UploadRow key={upload.id} upload={upload} />
        ))}
      </ul>
    </section>
  );
}

function UploadRow({ upload }: { readonly upload: UploadState }) {
  const { id, name, bytes, sent, state, message, programmeId } = upload;
  const isUnderway = state === 'sending' || state === 'paused' || state === 'waiting';
  return (
    <li className="flex items-center gap-3 py-0.5" data-state={state}>
      <span className="w-72 truncate" title={name}>
        {programmeId ? (
          <Link href={`/programmes/${programmeId}`} className="underline">
            {name}
          </Link>
        ) : (
          name
        )}
      </span>
      {isUnderway && (
        <ProgressBar fraction={sent / Math.max(1, bytes)} label={`Upload of ${name}`} className="h-2 w-40" />
      )}
      <span className="figure">
        {isUnderway ? `${formatBytes(sent)} of ${formatBytes(bytes)}` : formatBytes(bytes)}
      </span>
      <span className={state === 'failed' ? 'text-wrong' : 'text-quiet'}>{message ?? WORDS[state]}</span>
      <span className="ml-auto flex">
        {state === 'sending' && (
          <Button look="quiet" aria-label={`Pause ${name}`} onClick={() => pauseUpload(id)}>
            <Pause aria-hidden="true" size={15} />
          </Button>
        )}
        {state === 'paused' && (
          <Button look="quiet" aria-label={`Go on with ${name}`} onClick={() => resumeUpload(id)}>
            <Play aria-hidden="true" size={15} />
          </Button>
        )}
        <Button
          look="quiet"
          aria-label={isUnderway ? `Give up ${name}` : `Clear ${name}`}
          onClick={() => dropUpload(id)}
        >
          <X aria-hidden="true" size={15} />
        </Button>
      </span>
    </li>
  );
}

const WORDS: Readonly<Record<UploadState['state'], string>> = {
  sending: '',
  paused: 'paused',
  waiting: 'waiting',
  done: 'taken in',
  failed: 'failed',
};
