import { useSyncExternalStore } from 'react';
import { Upload } from 'tus-js-client';

/** Waits before going on after a lost connection; the last is repeated, so that a restarted server is found again. */
const RETRY_DELAYS_MS = [0, 1000, 2000, 4000, 8000, 8000, 8000, 8000, 8000, 8000, 8000, 8000];

/** One file on its way to the server. */
export interface UploadState {
  readonly id: number;
  readonly name: string;
  readonly bytes: number;
  readonly sent: number;
  readonly state: 'sending' | 'paused' | 'waiting' | 'done' | 'failed';
  readonly message: string | null;
  readonly programmeId: string | null;
}

// Kept outside the pages, so that going from one to another stops nothing.
let uploads: readonly UploadState[] = [];
const running = new Map<number, Upload>();
const listeners = new Set<() => void>();
let lastId = 0;

/** All uploads of this visit, the newest last. */
export function useUploads(): readonly UploadState[] {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => uploads,
    () => uploads,
  );
}

/**
 * Begins to send a file, or goes on where an earlier visit with the same file stopped.
 *
 * @param onTaken - Told the programme that it became.
 */
export function startUpload(file: File, folder: string | null, onTaken?: (programmeId: string) => void): void {
  lastId += 1;
  const id = lastId;
  const change = (changes: Partial<UploadState>) => {
    uploads = uploads.map((upload) => (upload.id === id ? { ...upload, ...changes } : upload));
    listeners.forEach((listener) => listener());
  };
  uploads = [
    ...uploads,
    { id, name: file.name, bytes: file.size, sent: 0, state: 'sending', message: null, programmeId: null },
  ];
  listeners.forEach((listener) => listener());

  const upload = new Upload(file, {
    endpoint: '/api/upload',
    retryDelays: RETRY_DELAYS_MS,
    removeFingerprintOnSuccess: true,
    metadata: { filename: file.name, ...(folder ? { folder } : {}) },
    onProgress: (sent) => change({ sent, state: 'sending', message: null }),
    onShouldRetry: (error) => {
      const status = error.originalResponse?.getStatus() ?? 0;
      const goesOn = status === 0 || status === 409 || status === 423 || status >= 500;
      if (goesOn && status !== 507)
        change({ state: 'waiting', message: 'The server does not answer; it is tried again.' });
      return goesOn && status !== 507;
    },
    onError: (error) => change({ state: 'failed', message: explain(error) }),
    onSuccess: ({ lastResponse }) => {
      const outcome = readOutcome(lastResponse.getHeader('Linstock-Outcome'));
      change({
        sent: file.size,
        state: outcome.message ? 'failed' : 'done',
        message: outcome.message ?? null,
        programmeId: outcome.programmeId ?? null,
      });
      running.delete(id);
      if (outcome.programmeId) onTaken?.(outcome.programmeId);
    },
  });
  running.set(id, upload);
  void upload.findPreviousUploads().then(([previous]) => {
    if (previous) upload.resumeFromPreviousUpload(previous);
    upload.start();
  });
}

export function pauseUpload(id: number): void {
  void running.get(id)?.abort();
  mark(id, 'paused');
}

export function resumeUpload(id: number): void {
  running.get(id)?.start();
  mark(id, 'sending');
}

/** Gives an upload up; what arrived of it is thrown away. */
export function dropUpload(id: number): void {
  const upload = running.get(id);
  running.delete(id);
  uploads = uploads.filter((one) => one.id !== id);
  listeners.forEach((listener) => listener());
  // The server forgets it by itself when it cannot be told.
  upload?.abort(true).catch(() => undefined);
}

function mark(id: number, state: UploadState['state']): void {
  uploads = uploads.map((upload) => (upload.id === id ? { ...upload, state, message: null } : upload));
  listeners.forEach((listener) => listener());
}

interface Outcome {
  readonly programmeId?: string;
  readonly message?: string;
}

function readOutcome(header: string | undefined): Outcome {
  return header ? (JSON.parse(decodeURIComponent(header)) as Outcome) : {};
}

function explain(error: unknown): string {
  const body = (error as { originalResponse?: { getBody(): string } | null }).originalResponse?.getBody();
  try {
    return (JSON.parse(body ?? '') as { error: { message: string } }).error.message;
  } catch {
    return 'The upload stopped; choose the same file again to go on.';
  }
}
