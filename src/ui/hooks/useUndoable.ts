import { useCallback, useState } from 'react';

interface History<Value> {
  readonly past: readonly Value[];
  readonly present: Value;
  readonly future: readonly Value[];
  /** A gesture is underway: however often the value changes meanwhile, it is one change. */
  readonly gesture: { readonly before: Value; readonly hasChanged: boolean } | null;
}

/** Changes remembered at most. */
const DEPTH = 200;

/** What is dragged or typed at this moment: one change from its beginning to its end. */
export interface Gesture {
  begin(): void;
  end(): void;
  /** Back to how it was when the gesture began. */
  cancel(): void;
}

/** A value whose changes can be undone and redone. */
export function useUndoable<Value>(initial: Value) {
  const [history, setHistory] = useState<History<Value>>({ past: [], present: initial, future: [], gesture: null });
  const set = useCallback((present: Value) => {
    setHistory(({ past, present: before, gesture }) => {
      if (!gesture) return { past: [...past, before].slice(-DEPTH), present, future: [], gesture };
      const remembered = gesture.hasChanged ? past : [...past, gesture.before].slice(-DEPTH);
      return { past: remembered, present, future: [], gesture: { ...gesture, hasChanged: true } };
    });
  }, []);
  /** Another's change: nothing of one's own to undo. */
  const replace = useCallback((present: Value) => setHistory((before) => ({ ...before, present })), []);
  const begin = useCallback(
    () => setHistory((now) => (now.gesture ? now : { ...now, gesture: { before: now.present, hasChanged: false } })),
    [],
  );
  const end = useCallback(() => setHistory((now) => ({ ...now, gesture: null })), []);
  const cancel = useCallback(
    () =>
      setHistory((now) => {
        if (!now.gesture?.hasChanged) return { ...now, gesture: null };
        return { ...now, past: now.past.slice(0, -1), present: now.gesture.before, gesture: null };
      }),
    [],
  );
  const undo = useCallback(() => {
    setHistory((now) => {
      const present = now.past.at(-1);
      if (present === undefined) return now;
      return { past: now.past.slice(0, -1), present, future: [now.present, ...now.future], gesture: null };
    });
  }, []);
  const redo = useCallback(() => {
    setHistory((now) => {
      const [present, ...future] = now.future;
      if (present === undefined) return now;
      return { past: [...now.past, now.present], present, future, gesture: null };
    });
  }, []);
  return { value: history.present, isHeld: history.gesture !== null, set, replace, begin, end, cancel, undo, redo };
}
