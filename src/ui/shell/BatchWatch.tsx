import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { useBatches } from '../hooks/batchQueries.ts';

/** Says when a batch has ended: on the page, in its title, and to whoever let the browser tell. */
export function BatchWatch() {
  const { data: batches } = useBatches();
  const running = useRef<ReadonlySet<string> | null>(null);
  useEffect(() => {
    if (!batches) return;
    const before = running.current;
    running.current = new Set(batches.filter(({ state }) => state === 'running').map(({ id }) => id));
    for (const batch of batches) {
      if (!before?.has(batch.id) || batch.state === 'running') continue;
      const missing = batch.asked - batch.made;
      const text = `${batch.name}: ${batch.made} of ${batch.asked} made${missing > 0 ? `, ${missing} not` : ''}.`;
      // In the place of what was said of it before: whoever stopped it may still bring it back there.
      toast(text, { id: batch.id, duration: 20_000 });
      document.title = `✓ ${text}`;
      if (typeof Notification !== 'undefined' && Notification.permission === 'granted') new Notification(text);
    }
  }, [batches]);
  return null;
}
