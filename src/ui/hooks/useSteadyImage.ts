import { useEffect, useRef, useState } from 'react';

/**
 * Shows the newest of quickly changing pictures without a flicker and without asking for all of them: while one is on
 * its way, only the last one wanted waits.
 *
 * @returns The address of the last picture that arrived, or null.
 */
export function useSteadyImage(wanted: string | null): string | null {
  const [shown, setShown] = useState<string | null>(null);
  const latest = useRef<string | null>(null);
  const isBusy = useRef(false);
  useEffect(() => {
    latest.current = wanted;
    const load = () => {
      const address = latest.current;
      if (address === null || isBusy.current) return;
      isBusy.current = true;
      const image = new Image();
      const finish = (isThere: boolean) => () => {
        isBusy.current = false;
        if (isThere) setShown(address);
        if (latest.current !== address) load();
      };
      image.onload = finish(true);
      image.onerror = finish(false);
      image.src = address;
    };
    load();
  }, [wanted]);
  return shown;
}
