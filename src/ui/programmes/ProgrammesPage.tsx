'use client';

import { Plus, Volume2 } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { toast } from 'sonner';
import type { ProgrammeView } from '../../contract/views.ts';
import { bytesPerHour } from '../../core/budget/projections.ts';
import { nameFrameRate } from '../../core/timing/frameRate.ts';
import { frameOfProgramme } from '../hooks/api.ts';
import { useForget, useProgrammes } from '../hooks/queries.ts';
import { Button } from '../kit/Button.tsx';
import { formatBytes, formatLength, formatRate } from '../kit/format.ts';
import { Notice } from '../kit/Notice.tsx';
import { AddProgramme } from './AddProgramme.tsx';
import { nameSourceCodec } from '../programme/describeProgramme.ts';

/** Everything taken in, in a list that reads at a glance. */
export function ProgrammesPage() {
  const { data: programmes, error, isPending } = useProgrammes();
  const [isAdding, setAdding] = useState(false);
  useHotkeys('a', () => setAdding(true));
  return (
    <main className="mx-auto max-w-6xl px-5 py-5">
      <div className="mb-3 flex items-baseline gap-4">
        <h1 className="text-2xl font-semibold">Programmes</h1>
        {programmes && (
          <span className="text-quiet">{programmes.length === 1 ? '1 master' : `${programmes.length} masters`}</span>
        )}
        <Button look="main" className="ml-auto" hotkey="A" onClick={() => setAdding(true)}>
          <Plus aria-hidden="true" size={16} /> Add a programme
        </Button>
      </div>
      {error && (
        <Notice kind="wrong" role="alert">
          {error.message}
        </Notice>
      )}
      {isPending && <p className="text-quiet">Reading the list …</p>}
      {programmes?.length === 0 && (
        <p className="text-quiet max-w-[44rem] py-10">
          Nothing has been taken in yet. Add a finished master from a media folder; it is only read, never changed.
        </p>
      )}
      {programmes && programmes.length > 0 && <ProgrammeTable programmes={programmes} />}
      <AddProgramme isOpen={isAdding} onOpenChange={setAdding} />
    </main>
  );
}

const COLUMNS = ['Length', 'Frame', 'Rate', 'Codec', 'Size', 'Bit rate', 'Per hour'] as const;

function ProgrammeTable({ programmes }: { readonly programmes: readonly ProgrammeView[] }) {
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr className="border-rule text-quiet border-b text-left text-sm">
          <th className="py-1 font-normal" colSpan={2}>
            Name
          </th>
          {COLUMNS.map((column) => (
            <th key={column} className="px-2 text-right font-normal">
              {column}
            </th>
          ))}
          <th>
            <span className="sr-only">Forget</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {programmes.map((programme) => (
          <ProgrammeRow key={programme.id} programme={programme} />
        ))}
      </tbody>
    </table>
  );
}

function ProgrammeRow({ programme }: { readonly programme: ProgrammeView }) {
  const forget = useForget();
  const { video, audio, bytes, durationSeconds } = programme;
  const perHour = bytesPerHour(bytes, durationSeconds);
  const figures = [
    formatLength(durationSeconds),
    video ? `${programme.width} × ${programme.height}` : 'sound only',
    video ? `${nameFrameRate(programme.frameRate)} fps` : `${(audio[0]?.sampleRate ?? 0) / 1000} kHz`,
    nameSourceCodec(video?.codec ?? audio[0]?.codec ?? ''),
    formatBytes(bytes),
    formatRate((bytes * 8) / durationSeconds),
    perHour === null ? '–' : formatBytes(perHour),
  ];
  return (
    <tr className="border-rule hover:bg-sheet border-b">
      <td className="w-32 py-1.5">
        <Thumbnail programme={programme} />
      </td>
      <td className="px-2">
        <Link href={`/programmes/${programme.id}`} className="font-semibold underline-offset-4 hover:underline">
          {programme.name}
        </Link>
      </td>
      {figures.map((figure, index) => (
        <td key={COLUMNS[index]} className="figure px-2 text-right whitespace-nowrap">
          {figure}
        </td>
      ))}
      <td className="pl-2 text-right">
        <Button
          look="quiet"
          aria-label={`Forget ${programme.name}`}
          disabled={forget.isPending}
          onClick={() =>
            forget.mutate(programme.id, {
              onSuccess: () => toast(`${programme.name} is forgotten; the file stays where it is.`),
              onError: (error) => toast.error(error.message),
            })
          }
        >
          Forget
        </Button>
      </td>
    </tr>
  );
}

function Thumbnail({ programme }: { readonly programme: ProgrammeView }) {
  if (!programme.video) {
    return (
      <div className="bg-sunk text-quiet flex h-[68px] w-[120px] items-center justify-center">
        <Volume2 aria-hidden="true" />
      </div>
    );
  }
  const middle = Math.floor(programme.frameCount * 0.25);
  return (
    <img
      src={frameOfProgramme(programme.id, middle, 240)}
      alt=""
      width={120}
      height={68}
      loading="lazy"
      className="h-[68px] w-[120px] bg-black object-contain"
    />
  );
}
