import { useSyncExternalStore } from 'react';

const noSubscription = () => () => undefined;

/** False while the server draws and at the browser's first pass, so that what only the browser knows comes after. */
export function useIsInBrowser(): boolean {
  return useSyncExternalStore(
    noSubscription,
    () => true,
    () => false,
  );
}
