import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { TakeInView } from '../../contract/views.ts';
import { api } from '../hooks/api.ts';
import { useTakeIns } from '../hooks/queries.ts';
import { Button } from '../kit/Button.tsx';
import { Disclosure } from '../kit/Disclosure.tsx';
import { count } from '../kit/count.ts';
import { MiddleCut } from '../kit/MiddleCut.tsx';
import { ProgressBar } from '../kit/ProgressBar.tsx';

/** What was taken in lately: always found = in + already in + refused, and every refusal with its reason. */
export function TakeInList() {
  const { data: takeIns = [] } = useTakeIns();
  const client = useQueryClient();
  // Put away on the server, so that it stays away.
  const dismiss = useMutation({
    mutationFn: api.dismissTakeIn,
    onMutate: (id) =>
      client.setQueryData<TakeInView[]>(['takeins'], (list) => list?.filter((takeIn) => takeIn.id !== id)),
  });
  if (takeIns.length === 0) return null;
  return (
    <section aria-label="Taken in" className="border-rule bg-sheet mb-3 rounded border px-3 py-2" data-testid="takeins">
      <ul className="space-y-1">
        {takeIns.map((takeIn) => (
          <TakeInRow key={takeIn.id} takeIn={takeIn} onHide={() => dismiss.mutate(takeIn.id)} />
        ))}
      </ul>
    </section>
  );
}

function TakeInRow({ takeIn, onHide }: { readonly takeIn: TakeInView; readonly onHide: () => void }) {
  const { id, state, paths, found, takenIn, alreadyIn, refused, refusedCount } = takeIn;
  const stop = useMutation({ mutationFn: () => api.stopTakeIn(id) });
  const settled = takenIn + alreadyIn + refusedCount;
  const isUnderway = state === 'searching' || state === 'taking';
  return (
    <li data-testid="takein" data-state={state}>
      <div className="flex flex-wrap items-center gap-3">
        <span className="figure max-w-80 truncate" title={paths.join('\n')}>
          {paths.length === 1 ? paths[0] : count(paths.length, 'path', 'paths')}
        </span>
        {state === 'searching' && <span role="status">looking through …</span>}
        {state === 'taking' && (
          <ProgressBar fraction={settled / Math.max(1, found)} label="Taking in" className="h-2 w-40" />
        )}
        {state !== 'searching' && (
          <span role="status">
            <span className="figure">{found}</span> found = <span className="figure">{takenIn}</span> taken in +{' '}
            <span className="figure">{alreadyIn}</span> already in + <span className="figure">{refusedCount}</span>{' '}
            refused
            {settled < found && (
              <>
                {' '}
                + <span className="figure">{found - settled}</span>{' '}
                {isUnderway ? 'to come' : 'left, since it was stopped'}
              </>
            )}
          </span>
        )}
        <span className="ml-auto">
          {isUnderway ? (
            <Button look="quiet" disabled={stop.isPending} onClick={() => stop.mutate()}>
              Stop
            </Button>
          ) : (
            <Button look="quiet" onClick={onHide}>
              Hide
            </Button>
          )}
        </span>
      </div>
      {refused.length > 0 && (
        <Disclosure name={count(refusedCount, 'file was refused', 'files were refused')} look="wrong">
          <ul className="mt-1 max-h-60 overflow-y-auto">
            {refused.map(({ path, message }) => (
              <li key={path} className="border-rule grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)] gap-3 border-t py-0.5">
                <span className="figure truncate" title={path}>
                  <MiddleCut text={path.split('/').at(-1) ?? path} />
                </span>
                <span>{message}</span>
              </li>
            ))}
          </ul>
        </Disclosure>
      )}
    </li>
  );
}
