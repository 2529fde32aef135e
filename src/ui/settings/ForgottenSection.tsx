import { useMutation, useQueryClient } from '@tanstack/react-query';
import { AlertDialog } from 'radix-ui';
import type { ForgottenView } from '../../contract/views.ts';
import { api } from '../hooks/api.ts';
import { useForgotten, useRestore } from '../hooks/queries.ts';
import { Button } from '../kit/Button.tsx';
import { MiddleCut } from '../kit/MiddleCut.tsx';
import { count } from '../kit/count.ts';

/** What was forgotten: brought back, or taken away for good. */
export function ForgottenSection() {
  const { data: forgotten = [] } = useForgotten();
  const restore = useRestore();
  return (
    <section className="mb-6" data-testid="forgotten">
      <h2 className="text-lg font-semibold">Forgotten programmes</h2>
      {forgotten.length === 0 ? (
        <p className="text-quiet">None. What is forgotten is kept here until it is taken away for good.</p>
      ) : (
        <>
          <p className="text-quiet mb-1 text-sm">
            Bringing the same file in again brings its history back too. Files are never touched.
          </p>
          <ul className="mb-2 max-w-[60rem]">
            {forgotten.map((one) => (
              <li key={one.id} className="border-rule flex items-center gap-4 border-b py-1">
                <MiddleCut text={one.name} className="w-80 font-semibold" />
                <span className="text-quiet">{keptOf(one)}</span>
                <Button className="ml-auto" disabled={restore.isPending} onClick={() => restore.mutate(one.id)}>
                  Bring it back
                </Button>
              </li>
            ))}
          </ul>
          {restore.error && (
            <p role="alert" className="text-wrong mb-2">
              {restore.error.message}
            </p>
          )}
          <TakeAway forgotten={forgotten} />
        </>
      )}
    </section>
  );
}

function keptOf({ renditions, portions, analysed }: ForgottenView): string {
  const parts = [
    renditions > 0 ? count(renditions, 'rendition’s record', 'renditions’ records') : '',
    portions > 0 ? count(portions, 'portion', 'portions') : '',
    analysed ? 'its analysis' : '',
  ];
  return parts.filter(Boolean).join(', ');
}

/** For good, and only after it was said what goes. */
function TakeAway({ forgotten }: { readonly forgotten: readonly ForgottenView[] }) {
  const client = useQueryClient();
  const remove = useMutation({
    mutationFn: () => api.removeForgotten(forgotten.map(({ id }) => id)),
    onSuccess: () => client.invalidateQueries({ queryKey: ['forgotten'] }),
  });
  const renditions = forgotten.reduce((sum, one) => sum + one.renditions, 0);
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger asChild>
        <Button look="quiet" disabled={remove.isPending}>
          Take them away for good …
        </Button>
      </AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <AlertDialog.Content className="border-rule bg-sheet text-ink fixed top-[20vh] left-1/2 z-50 w-[34rem] max-w-[calc(100vw-2rem)] -translate-x-1/2 rounded-md border p-5">
          <AlertDialog.Title className="text-lg font-semibold">
            Take {count(forgotten.length, 'programme', 'programmes')} away for good?
          </AlertDialog.Title>
          <AlertDialog.Description className="mt-2">
            What goes: everything measured about {forgotten.length === 1 ? 'it' : 'them'}, the portions and order lines,
            and {count(renditions, 'rendition’s record', 'renditions’ records')} with sizes, checks and qualities.
            Masters and finished files stay where they are. This cannot be undone.
          </AlertDialog.Description>
          <div className="mt-4 flex justify-end gap-3">
            <AlertDialog.Cancel className="border-rule hover:bg-sunk rounded border px-3 py-1">
              Keep them
            </AlertDialog.Cancel>
            <AlertDialog.Action
              className="border-wrong text-wrong hover:bg-wrong-soft rounded border px-3 py-1"
              onClick={() => remove.mutate()}
            >
              Take them away
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
