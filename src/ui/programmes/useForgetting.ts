import { useState } from 'react';
import { toast } from 'sonner';
import type { ProgrammeSummary } from '../../contract/views.ts';
import { useForget, useRestore } from '../hooks/queries.ts';
import { useActKey } from '../hooks/useWorkKey.ts';

/**
 * Forgetting in a list: a row that was forgotten stays in its place, so that nothing moves under the pointer, and is
 * brought back by its own button, by the notice, or by the usual key.
 *
 * @param programmes - As the server lists them.
 */
export function useForgetting(programmes: readonly ProgrammeSummary[] | undefined) {
  const forget = useForget();
  const restore = useRestore();
  const [gone, setGone] = useState<readonly { readonly programme: ProgrammeSummary; readonly index: number }[]>([]);
  const bringBack = (programme: ProgrammeSummary) => {
    setGone((list) => list.filter((one) => one.programme.id !== programme.id));
    restore.mutate(programme.id, { onError: (error) => toast.error(error.message) });
  };
  useActKey('mod+z', () => {
    const last = gone.at(-1);
    if (last) bringBack(last.programme);
  });
  const rows = [...(programmes ?? [])];
  for (const { programme, index } of gone) {
    if (!rows.some(({ id }) => id === programme.id)) rows.splice(index, 0, programme);
  }
  return {
    /** The list with what was forgotten in its old places. */
    rows,
    isForgotten: (id: string) => gone.some(({ programme }) => programme.id === id),
    forget: (programme: ProgrammeSummary) => {
      const index = rows.findIndex(({ id }) => id === programme.id);
      setGone((list) => [...list, { programme, index }]);
      forget.mutate(programme.id, {
        onSuccess: () =>
          toast(`${programme.name} is forgotten; the file stays where it is.`, {
            action: { label: 'Undo', onClick: () => bringBack(programme) },
          }),
        onError: (error) => {
          setGone((list) => list.filter((one) => one.programme.id !== programme.id));
          toast.error(error.message);
        },
      });
    },
    bringBack,
  };
}
