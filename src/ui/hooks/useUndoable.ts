import { useCallback, useState } from 'react';

interface History<Value> {
  readonly past: readonly Value[];
  readonly present: Value;
  readonly future: readonly Value[];
}

/** Changes remembered at most. */
const DEPTH = 200;

/** A value whose changes can be undone and redone. */
export function useUndoable<Value>(initial: Value) {
  const [history, setHistory] = useState<History<Value>>({ past: [], present: initial, future: [] });
  const set = useCallback((present: Value) => {
    setHistory((before) => ({ past: [...before.past, before.present].slice(-DEPTH), present, future: [] }));
  }, []);
  const undo = useCallback(() => {
    setHistory((before) => {
      const present = before.past.at(-1);
      if (present === undefined) return before;
      return { past: before.past.slice(0, -1), present, future: [before.present, ...before.future] };
    });
  }, []);
  const redo = useCallback(() => {
    setHistory((before) => {
      const [present, ...future] = before.future;
      if (present === undefined) return before;
      return { past: [...before.past, before.present], present, future };
    });
  }, []);
  return { value: history.present, set, undo, redo };
}
