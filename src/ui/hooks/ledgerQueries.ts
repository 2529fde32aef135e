import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { LedgerRequest } from '../../contract/ledger.ts';
import { api } from './api.ts';

/** What the ledger is looked through by. */
export type LedgerQuestion = Pick<LedgerRequest, 'words' | 'state' | 'order'>;

export const useLedger = (question: LedgerQuestion) =>
  useInfiniteQuery({
    queryKey: ['ledger', question],
    queryFn: ({ pageParam }) => api.ledger(question, pageParam),
    initialPageParam: '0',
    getNextPageParam: ({ next }) => next,
    placeholderData: (before) => before,
    staleTime: 0,
  });

/** What is done to files of the ledger. */
export function useFileWork() {
  const client = useQueryClient();
  const done = {
    onSuccess: () => client.invalidateQueries({ queryKey: ['ledger'] }),
    onError: (error: Error) => void toast.error(error.message),
  };
  return {
    rename: useMutation({
      mutationFn: ({ id, name }: { readonly id: string; readonly name: string }) => api.renameFile(id, name),
      ...done,
    }),
    remove: useMutation({ mutationFn: api.deleteFile, ...done }),
    again: useMutation({
      mutationFn: api.again,
      onSuccess: (made) => toast(`${made.name} is queued.`),
      onError: done.onError,
    }),
  };
}
