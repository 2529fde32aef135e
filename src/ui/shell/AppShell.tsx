'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { CameFromProvider } from '../hooks/cameFrom.ts';
import { isUnderway } from '../hooks/api.ts';
import { useQueue, useServerEvents } from '../hooks/queries.ts';
import { formatWait } from '../kit/format.ts';
import { BatchWatch } from './BatchWatch.tsx';
import { KeysDialog } from './KeysDialog.tsx';
import { Mark } from './Mark.tsx';

const PLACES = [
  {
    href: '/',
    label: 'Programmes',
    isHere: (path: string) => path === '/' || path.startsWith('/programmes') || path.startsWith('/desk'),
  },
  {
    href: '/queue',
    label: 'Queue',
    isHere: (path: string) => path.startsWith('/queue') || path.startsWith('/batches'),
  },
  { href: '/ledger', label: 'Ledger', isHere: (path: string) => path.startsWith('/ledger') },
  { href: '/recipes', label: 'Recipes & briefs', isHere: (path: string) => path.startsWith('/recipes') },
  { href: '/settings', label: 'Settings', isHere: (path: string) => path.startsWith('/settings') },
] as const;

/** The places above every page, what is running, and the list of keys. */
export function AppShell({ children }: { readonly children: ReactNode }) {
  useServerEvents();
  const path = usePathname();
  const cameFrom = usePathBefore(path);
  const [areKeysShown, setKeysShown] = useState(false);
  useHotkeys('shift+?', () => setKeysShown(true), { useKey: true });
  return (
    <>
      <header className="border-rule bg-sheet flex flex-wrap items-center gap-x-6 gap-y-1 border-b px-5 py-2">
        <Link href="/" className="flex items-center gap-2 font-semibold tracking-wide">
          <Mark />
          Linstock
        </Link>
        <nav aria-label="Places" className="flex gap-1">
          {PLACES.map((place) => (
            <Link
              key={place.href}
              href={place.href}
              aria-current={place.isHere(path) ? 'page' : undefined}
              className="text-quiet hover:text-ink aria-[current=page]:text-ink aria-[current=page]:decoration-ember rounded px-2.5 py-1 aria-[current=page]:font-semibold aria-[current=page]:underline aria-[current=page]:decoration-2 aria-[current=page]:underline-offset-8"
            >
              {place.label}
            </Link>
          ))}
        </nav>
        <RunningSummary />
        <button
          type="button"
          onClick={() => setKeysShown(true)}
          className="border-rule text-quiet hover:text-ink rounded border px-2"
          aria-label="Keys"
        >
          ?
        </button>
      </header>
      <CameFromProvider value={cameFrom}>{children}</CameFromProvider>
      <BatchWatch />
      <KeysDialog isOpen={areKeysShown} onOpenChange={setKeysShown} />
    </>
  );
}

/** The path before this one; remembered while a page is drawn, so that the page itself knows. */
function usePathBefore(path: string): string | null {
  const [{ now, before }, setPaths] = useState<{ now: string; before: string | null }>({ now: path, before: null });
  if (now === path) return before;
  setPaths({ now: path, before: now });
  return now;
}

function RunningSummary() {
  const { data: queue } = useQueue();
  const renditions = queue?.rows ?? [];
  const underway = renditions.filter(({ state }) => isUnderway(state));
  const waiting = queue?.counts.queued ?? 0;
  if (!queue || underway.length + waiting === 0) {
    return <span className="text-quiet ml-auto text-sm">Nothing running</span>;
  }
  if (!queue.open) {
    return (
      <Link href="/queue" className="text-ember ml-auto text-sm" data-testid="running-summary">
        {queue.paused ? 'Paused' : `Closed until ${queue.hours?.from ?? ''}`} · {waiting + underway.length} waiting
      </Link>
    );
  }
  const running = underway.find(({ paused }) => !paused);
  const still = underway.filter(({ paused }) => paused).length;
  const others = [...(waiting > 0 ? [`${waiting} waiting`] : []), ...(still > 0 ? [`${still} standing still`] : [])];
  return (
    <Link href="/queue" className="ml-auto text-sm" data-testid="running-summary">
      {running && (
        <>
          <span className="text-ember">{running.state === 'checking' ? 'Checking' : 'Encoding'}</span>{' '}
          <span className="figure">{Math.round(running.fraction * 100)}</span> %
          {running.secondsLeft !== null && <span className="text-quiet">, {formatWait(running.secondsLeft)} left</span>}
        </>
      )}
      <span className="text-quiet">
        {running && others.length > 0 && ' · '}
        {others.join(' · ')}
      </span>
    </Link>
  );
}
