import { useEffect, useState } from 'react';

const KEY = 'linstock.line-speed';

/** The speed of the line results are sent over, in Mb/s as typed; remembered. */
export function useLineSpeed(): readonly [text: string, set: (text: string) => void] {
  const [text, setText] = useState('20');
  // Read after the first paint, so that server and browser draw the same page first.
  useEffect(() => {
    const kept = localStorage.getItem(KEY);
    if (kept !== null) setText(kept);
  }, []);
  return [
    text,
    (typed) => {
      setText(typed);
      localStorage.setItem(KEY, typed);
    },
  ];
}
