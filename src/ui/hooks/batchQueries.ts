import { hashKey, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { BatchRequest } from '../../contract/batch.ts';
import type { QueueView } from '../../contract/queue.ts';
import { api } from './api.ts';
import { QUEUE } from './queries.ts';

export const useBatches = () => useQuery({ queryKey: ['batches'], queryFn: api.batches });

/** What is left is told anew so often. */
export const LEFT_EVERY_MS = 20_000;

export const useBatch = (id: string) =>
  useQuery({
    queryKey: ['batches', id],
    queryFn: () => api.batch(id),
    retry: false,
    // What is left grows less without a word.
    refetchInterval: ({ state }) => (state.data?.left ? LEFT_EVERY_MS : false),
  });

/**
 * What a batch would be; null asks for nothing yet.
 *
 * @param of - What it is a change of: what was answered about another is not shown meanwhile.
 */
export const useBatchPlan = (request: Partial<BatchRequest> | null, of: Partial<BatchRequest> | null = null) =>
  useQuery({
    queryKey: ['batch-plan', of, request],
    // What was changed again meanwhile is planned no further.
    queryFn: ({ signal }) => (request ? api.planBatch(request, signal) : null),
    enabled: request !== null,
    placeholderData: (before, query) => (hashKey([query?.queryKey[1]]) === hashKey([of]) ? before : undefined),
    retry: false,
    staleTime: 0,
  });

export function useBatchAgain(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (row: number | null) => api.batchAgain(id, row),
    onSuccess: (batch) => client.setQueryData(['batches', id], batch),
    onError: (error: Error) => void toast.error(error.message),
  });
}

/** Stops what of a batch is still to come; the word that it is done brings it back. */
export function useBatchStop(id: string) {
  const client = useQueryClient();
  const again = useBatchAgain(id);
  return useMutation({
    mutationFn: () => api.stopBatch(id),
    onSuccess: (batch) => {
      client.setQueryData(['batches', id], batch);
      void client.invalidateQueries({ queryKey: QUEUE });
      const undo = { label: 'Undo', onClick: () => again.mutate(null) };
      toast(`“${batch.name}” was stopped.`, { id, ...(batch.again > 0 ? { action: undo } : {}) });
    },
    onError: (error: Error) => void toast.error(error.message),
  });
}

/** What is done to the queue and to what waits in it. */
export function useQueueWork() {
  const client = useQueryClient();
  const fail = (error: Error) => void toast.error(error.message);
  const read = () => client.invalidateQueries({ queryKey: QUEUE });
  return {
    settings: useMutation({
      mutationFn: api.changeQueue,
      onSuccess: (queue) => {
        const put = ({ rows, counts }: QueueView) => ({ ...queue, rows, counts });
        client.setQueriesData<QueueView>({ queryKey: QUEUE }, (known) => known && put(known));
      },
      onError: fail,
    }),
    rendition: useMutation({
      mutationFn: ({ id, ...change }: { readonly id: string; position?: number; paused?: boolean }) =>
        api.changeRendition(id, change),
      onSuccess: read,
      onError: fail,
    }),
    batchToFront: useMutation({ mutationFn: (id: string) => api.moveBatch(id, 0), onSuccess: read, onError: fail }),
    again: useMutation({ mutationFn: api.again, onSuccess: read, onError: fail }),
  };
}
