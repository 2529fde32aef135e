import { useEffect, useState } from 'react';

/** Times are shown in minutes. */
const EVERY_MS = 30_000;

/** The time of day, in milliseconds, as it goes on. */
export function useNow(): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), EVERY_MS);
    return () => clearInterval(timer);
  }, []);
  return now;
}
