'use client';

import { useEffect, useRef, useState } from 'react';
import { Button } from '../kit/Button.tsx';
import { formatBytes } from '../kit/format.ts';
import { changedWords } from './changedWords.ts';

/** What just changed is marked for so long. */
const MARKED_MS = 1800;

interface Props {
  readonly sentence: string;
  /** Likely bytes of everything that would be queued; null while they are not known. */
  readonly expected: number | null;
  /** Each file's cap, where there is one. */
  readonly cap: number | null;
  /** Said in the place of the size: why it is not known, or what stands in the way. */
  readonly standing: string;
  readonly label: string;
  readonly isReady: boolean;
  readonly onQueue: () => void;
}

/** The order at the foot of the window, one line high, while whatever changes it is worked on. */
export function StandingOrder({ sentence, expected, cap, standing, label, isReady, onQueue }: Props) {
  const marked = useMarked(sentence);
  return (
    <div
      className="border-rule bg-sheet fixed inset-x-0 bottom-0 z-20 border-t shadow-[0_-2px_8px_rgb(0_0_0/0.08)]"
      role="region"
      aria-label="Standing order"
      data-testid="standing-order"
    >
      <div className="mx-auto flex max-w-6xl items-center gap-4 px-5 py-1.5 2xl:max-w-[90rem]">
        <p className="min-w-0 grow truncate" title={sentence}>
          {sentence.split(/(?<= )/).map((word, index) => (
            <span
              key={index}
              className={marked?.has(index) ? 'bg-ember-soft decoration-ember underline decoration-2' : ''}
            >
              {word}
            </span>
          ))}
        </p>
        <p className="figure shrink-0" data-testid="standing-size" aria-live="polite">
          {expected === null ? standing : `≈ ${formatBytes(expected)}`}
          {cap !== null && <span className="text-quiet"> of {formatBytes(cap)}</span>}
        </p>
        <Button look="main" hotkey="Q" disabled={!isReady} onClick={onQueue} className="shrink-0">
          {label}
        </Button>
      </div>
    </div>
  );
}

/** Places of the words that changed last, for a moment. */
function useMarked(sentence: string): ReadonlySet<number> | null {
  const before = useRef(sentence);
  const [marked, setMarked] = useState<ReadonlySet<number> | null>(null);
  useEffect(() => {
    if (before.current === sentence) return;
    setMarked(changedWords(before.current, sentence));
    before.current = sentence;
    const timer = setTimeout(() => setMarked(null), MARKED_MS);
    return () => clearTimeout(timer);
  }, [sentence]);
  return marked;
}
