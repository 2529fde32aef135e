'use client';

import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
  type InfiniteData,
  type QueryClient,
} from '@tanstack/react-query';
import { toast } from 'sonner';
import { MOST_ROWS } from '../../contract/list.ts';
import type { QueueView } from '../../contract/queue.ts';
import { useEffect, useMemo } from 'react';
import type { RatedCodec } from '../../core/video/codecs.ts';
import { workingCodecs } from '../../core/video/hardware.ts';
import type {
  AnalysisView,
  ProgrammeSummary,
  RenditionPage,
  RenditionSummary,
  RenditionView,
  ServerEvent,
  TakeInView,
} from '../../contract/views.ts';
import type { SoundingRequest } from '../../contract/sounding.ts';
import { ACTIVE_STATES, api, PAGE } from './api.ts';
import { createPatientAsker } from './patientAsker.ts';
import { isPart, recount } from './queueCounts.ts';

export const useProgrammes = () => useQuery({ queryKey: ['programmes'], queryFn: api.programmes });

export const useProgramme = (id: string) =>
  useQuery({ queryKey: ['programmes', id], queryFn: () => api.programme(id) });

/** Every rendition of a programme. */
export const useRenditionsOf = (programmeId: string) =>
  useQuery({ queryKey: ['renditions', 'of', programmeId], queryFn: () => api.renditionsOf(programmeId) });

/**
 * What runs and waits, of all programmes.
 *
 * @param refetchInterval - In milliseconds, where what is left is shown: it grows less without a word.
 */
export const useQueue = (refetchInterval: number | false = false, limit = MOST_ROWS) =>
  useQuery({
    queryKey: [...QUEUE, limit],
    queryFn: () => api.queue(limit),
    refetchInterval,
    placeholderData: keepPreviousData,
  });

/** The line, as much of it as is shown in each place. */
export const QUEUE = ['renditions', 'queue'] as const;

/** Whether what runs may go on; taken to be so until it is known. */
export const useIsQueueOpen = (): boolean => useQueue().data?.open ?? true;

/** How others ended, the latest first, page by page. */
export const useEnded = () =>
  useInfiniteQuery({
    queryKey: ['renditions', 'ended'],
    queryFn: ({ pageParam }) => api.ended(pageParam),
    initialPageParam: null as string | null,
    getNextPageParam: ({ next }) => next,
  });

/** Everything about one rendition. */
export const useRendition = (id: string) =>
  useQuery({ queryKey: ['rendition', id], queryFn: () => api.rendition(id), retry: false });

/** What was found in its master that a rendition has as well. */
export const useAdvisoriesOf = (id: string) =>
  useQuery({ queryKey: ['advisories', id], queryFn: () => api.advisoriesOf(id), retry: false });

export const useAnalysis = (id: string) => useQuery({ queryKey: ['analysis', id], queryFn: () => api.analysis(id) });

export const useStrips = (id: string) =>
  useQuery({ queryKey: ['strips', id], queryFn: () => api.strips(id), staleTime: Infinity });

export const useFrameTimes = (id: string, isVariable: boolean) =>
  useQuery({
    queryKey: ['frame-times', id],
    queryFn: () => api.frameTimes(id),
    enabled: isVariable,
    staleTime: Infinity,
  });

/** What finished renditions of a programme came to; one that is done teaches more. */
export const useCameOut = (id: string) =>
  useQuery({ queryKey: ['came-out', id], queryFn: () => api.cameOut(id), staleTime: Infinity });

/** Where a copy may begin; asked for where a portion is copied. */
export const useCuts = (id: string, isAsked: boolean) =>
  useQuery({
    queryKey: ['cuts', id],
    queryFn: () => api.cuts(id),
    enabled: isAsked,
    staleTime: Infinity,
    retry: false,
  });

export const usePortions = (id: string) =>
  useQuery({ queryKey: ['portions', id], queryFn: () => api.portions(id), staleTime: 0, gcTime: 0 });

/** The order line and the portions as the server has them. */
export const useSavedOrder = (id: string) =>
  useQuery({ queryKey: ['order', id], queryFn: () => api.workingOrder(id), staleTime: 0, gcTime: 0 });

export const useForgotten = () => useQuery({ queryKey: ['forgotten'], queryFn: api.forgotten, staleTime: 0 });

export const useTakeIns = () => useQuery({ queryKey: ['takeins'], queryFn: api.takeIns });

export const useSystem = () => useQuery({ queryKey: ['system'], queryFn: api.system, staleTime: Infinity });

/** Encoders in hardware; the server tries them when it is first asked, which takes some seconds. */
export const useHardware = (isAsked = true) =>
  useQuery({ queryKey: ['hardware'], queryFn: api.hardware, staleTime: Infinity, enabled: isAsked });

/** Codecs that encoders in hardware make on the server; null until it has answered. */
export const useWorkingHardware = (isAsked: boolean): readonly RatedCodec[] | null => {
  const { data } = useHardware(isAsked);
  return useMemo(() => (data ? workingCodecs(data.encoders) : null), [data]);
};

/** How fast this machine was lately; a rendition that is done teaches more. */
export const useSpeeds = () => useQuery({ queryKey: ['speeds'], queryFn: api.speeds, staleTime: Infinity });

export const useMedia = (folder: string | null) =>
  useQuery({ queryKey: ['media', folder], queryFn: () => api.media(folder) });

/** What a portion takes at a frame size, or where its measurement stands; null asks for nothing. */
export const soundingQuery = (programmeId: string, wanted: SoundingRequest | null) => ({
  // Wherever it begins, it is the same one.
  queryKey: ['sounding', programmeId, wanted && { ...wanted, around: null }],
  enabled: wanted !== null,
  queryFn: () => (wanted ? api.sounding(programmeId, wanted) : null),
  retry: false,
  staleTime: Infinity,
});

export function useTakeIn() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ paths, subfolders }: { paths: readonly string[]; subfolders: boolean }) =>
      api.beginTakeIn(paths, subfolders),
    onSuccess: (takeIn) =>
      client.setQueryData<TakeInView[]>(['takeins'], (list) => (has(list, takeIn) ? list : placeFirst(list, takeIn))),
  });
}

/** Points a programme to another file, or to the same one looked at again. */
export function useRepoint(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ path, replace }: { path: string; replace: boolean }) => api.repoint(id, path, replace),
    onSuccess: () => client.invalidateQueries(),
  });
}

export function useRetryAnalysis(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => api.retryAnalysis(id),
    onSuccess: (analysis) => client.setQueryData<AnalysisView>(['analysis', id], analysis),
  });
}

export function useForget() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: api.forget,
    // The list keeps the row until the page is left: what is below must not move under the pointer.
    onSuccess: () =>
      Promise.all(['renditions', 'media', 'forgotten'].map((key) => client.invalidateQueries({ queryKey: [key] }))),
  });
}

/** Brings a forgotten programme back, with everything that was known of it. */
export function useRestore() {
  const client = useQueryClient();
  return useMutation({ mutationFn: api.restore, onSuccess: () => client.invalidateQueries() });
}

export function useOrder() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: api.order,
    onSuccess: (rendition) => takeRendition(client, rendition, true),
  });
}

/** Stops a rendition; one that only waited is put back where it was by one key. */
export function useStop() {
  return useMutation({
    mutationFn: ({ rendition }: { readonly rendition: RenditionSummary; readonly place: number | null }) =>
      api.stop(rendition.id),
    onSuccess: (_answer, { rendition, place }) => {
      if (rendition.state !== 'queued') return;
      const putBack = async () => {
        const { id } = await api.again(rendition.id);
        if (place !== null) await api.changeRendition(id, { position: place });
      };
      const onClick = () => void putBack().catch((error: Error) => toast.error(error.message));
      toast(`${rendition.name} is taken out of the queue.`, { action: { label: 'Undo', onClick } });
    },
    onError: (error: Error) => void toast.error(error.message),
  });
}

/** Keeps what is shown true: every event of the server goes straight into the cache. */
export function useServerEvents(): void {
  const client = useQueryClient();
  useEffect(() => {
    const source = new EventSource('/api/events');
    const planBatchAgain = createPatientAsker(client, ['batch-plan']);
    const on = <Type extends ServerEvent['type']>(
      type: Type,
      take: (event: Extract<ServerEvent, { type: Type }>) => void,
    ) =>
      source.addEventListener(type, (message) =>
        take(JSON.parse((message as MessageEvent<string>).data) as Extract<ServerEvent, { type: Type }>),
      );
    on('rendition', ({ rendition }) => takeRendition(client, rendition, false));
    on('position', ({ id, position }) => {
      const move = <Item extends RenditionSummary>(one: Item) => (one.id === id ? { ...one, ...position } : one);
      client.setQueriesData<QueueView>({ queryKey: QUEUE }, (page) => page && { ...page, rows: page.rows.map(move) });
      client.setQueriesData<RenditionSummary[]>({ queryKey: ['renditions', 'of'] }, (list) => list?.map(move));
      client.setQueryData<RenditionView>(['rendition', id], (known) => known && move(known));
    });
    on('programme', ({ programme }) => {
      client.setQueryData<ProgrammeSummary[]>(['programmes'], (list) => place(list, programme));
      void client.invalidateQueries({ queryKey: ['programmes', programme.id] });
    });
    on('analysis', ({ programmeId, state, fraction }) => {
      if (state === 'running') {
        client.setQueryData<AnalysisView>(['analysis', programmeId], (known) => known && { ...known, state, fraction });
        return;
      }
      for (const key of ['analysis', 'strips']) void client.invalidateQueries({ queryKey: [key, programmeId] });
      void client.invalidateQueries({ queryKey: ['advisories'] });
      planBatchAgain();
    });
    on('takein', ({ takeIn }) => {
      client.setQueryData<TakeInView[]>(['takeins'], (list) => placeFirst(list, takeIn));
      if (takeIn.state === 'done') void client.invalidateQueries({ queryKey: ['media'] });
    });
    on('programme-forgotten', ({ programmeId }) => {
      client.setQueryData<ProgrammeSummary[]>(['programmes'], (list) => list?.filter(({ id }) => id !== programmeId));
      for (const key of ['renditions', 'media', 'forgotten']) void client.invalidateQueries({ queryKey: [key] });
    });
    on('work', ({ programmeId, page }) => {
      if (page === PAGE) return;
      for (const key of ['order', 'portions']) void client.invalidateQueries({ queryKey: [key, programmeId] });
    });
    on('shelf', ({ kind }) => void client.invalidateQueries({ queryKey: ['shelf', `${kind}s`] }));
    on('queue', () => void client.invalidateQueries({ queryKey: QUEUE }));
    on('batch', () => void client.invalidateQueries({ queryKey: ['batches'] }));
    on('sounding', ({ programmeId }) => {
      void client.invalidateQueries({ queryKey: ['sounding', programmeId] });
      planBatchAgain();
    });
    on('trial', ({ programmeId, hasEnded }) => {
      // What orders are planned by is asked for once, and not each second on the way.
      const plannedBy = hasEnded ? ['tried', 'frame-size'] : [];
      for (const key of ['trials', 'scale', ...plannedBy]) {
        void client.invalidateQueries({ queryKey: [key, programmeId] });
      }
      if (hasEnded) planBatchAgain();
    });
    // What happened before the line was up is not told on it: whatever was asked until then is asked again.
    source.onopen = () => void client.cancelQueries().then(() => client.invalidateQueries());
    return () => source.close();
  }, [client]);
}

/**
 * Puts a rendition into every list it belongs to.
 *
 * @param isAnswer - An answer may come after the event that is newer than it; then the event's word stands.
 */
function takeRendition(client: QueryClient, rendition: RenditionSummary, isAnswer: boolean): void {
  const { id, programmeId, state } = rendition;
  const put = (list: RenditionSummary[] | undefined) =>
    isAnswer && has(list, rendition) ? list : place(list, rendition);
  client.setQueryData<RenditionSummary[]>(['renditions', 'of', programmeId], put);
  const isActive = ACTIVE_STATES.some((one) => one === state);
  client.setQueriesData<QueueView>({ queryKey: QUEUE }, (page) => {
    if (!page) return page;
    const rows = [...page.rows];
    const counts = recount(page.counts, rows.find((one) => one.id === id)?.state, isActive ? state : undefined);
    return { ...page, counts, rows: isActive ? (put(rows) ?? rows) : rows.filter((one) => one.id !== id) };
  });
  // Where not all are shown, others move up.
  void client.invalidateQueries({ queryKey: QUEUE, predicate: ({ state: { data } }) => isPart(data as QueueView) });
  if (isActive) return;
  if (state === 'done') {
    client.setQueryData<ProgrammeSummary[]>(['programmes'], (list) =>
      list?.map((one) => (one.id === programmeId ? { ...one, isMade: true } : one)),
    );
  }
  if (rendition.batch) void client.invalidateQueries({ queryKey: ['batches'] });
  void client.invalidateQueries({ queryKey: ['rendition', id] });
  void client.invalidateQueries({ queryKey: ['scale', programmeId] });
  for (const key of ['speeds', 'ledger', 'came-out']) void client.invalidateQueries({ queryKey: [key] });
  client.setQueryData<InfiniteData<RenditionPage>>(['renditions', 'ended'], (known) => {
    const [first, ...others] = known?.pages ?? [];
    if (!known || !first || known.pages.some(({ rows }) => rows.some((one) => one.id === id))) return known;
    const counts = { ...first.counts, [state]: (first.counts[state] ?? 0) + 1 };
    return { ...known, pages: [{ ...first, rows: [rendition, ...first.rows], counts }, ...others] };
  });
}

function has<Item extends { readonly id: string }>(list: Item[] | undefined, item: Item): boolean {
  return list?.some(({ id }) => id === item.id) ?? false;
}

function place<Item extends { readonly id: string }>(list: Item[] | undefined, item: Item): Item[] | undefined {
  if (!list) return list;
  return list.some((one) => one.id === item.id)
    ? list.map((one) => (one.id === item.id ? item : one))
    : [...list, item];
}

function placeFirst(list: TakeInView[] | undefined, takeIn: TakeInView): TakeInView[] | undefined {
  if (!list) return list;
  const others = list.filter((one) => one.id !== takeIn.id);
  return others.length < list.length ? list.map((one) => (one.id === takeIn.id ? takeIn : one)) : [takeIn, ...list];
}
