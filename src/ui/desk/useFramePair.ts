import { useEffect, useState } from 'react';
import { frameOfRendition, masterOfRendition } from '../hooks/api.ts';

export interface FramePair {
  readonly frame: number;
  readonly master: string;
  readonly result: string;
}

type State =
  | { readonly kind: 'loading'; readonly shown: FramePair | null }
  | { readonly kind: 'shown'; readonly shown: FramePair }
  | { readonly kind: 'failed'; readonly shown: FramePair | null };

/**
 * The same frame of master and result, always shown together: both are decoded before either is, so that the eye
 * never compares two moments.
 */
export function useFramePair(renditionId: string, frame: number, lastFrame: number): State {
  const [state, setState] = useState<State>({ kind: 'loading', shown: null });
  useEffect(() => {
    let isStale = false;
    const pairOf = (wanted: number): FramePair => ({
      frame: wanted,
      master: masterOfRendition(renditionId, wanted),
      result: frameOfRendition(renditionId, wanted),
    });
    const pair = pairOf(frame);
    setState((before) => ({ kind: 'loading', shown: before.shown }));
    Promise.all([decode(pair.master), decode(pair.result)]).then(
      () => {
        if (isStale) return;
        setState({ kind: 'shown', shown: pair });
        // The next frame is most likely the next wanted.
        const next = pairOf(Math.min(lastFrame, frame + 1));
        void Promise.all([decode(next.master), decode(next.result)]).catch(() => undefined);
      },
      () => {
        if (!isStale) setState((before) => ({ kind: 'failed', shown: before.shown }));
      },
    );
    return () => {
      isStale = true;
    };
  }, [renditionId, frame, lastFrame]);
  return state;
}

async function decode(address: string): Promise<void> {
  const image = new Image();
  image.src = address;
  await image.decode();
}
