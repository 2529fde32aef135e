import type { MachineSpeeds } from '../../core/forecast/encodeTime.ts';
import type { RenditionRequest } from '../../contract/recipe.ts';
import type {
  CaptionView,
  AnalysisView,
  ErrorBody,
  ForgottenView,
  CutsView,
  FrameTimesView,
  MediaListing,
  ListPage,
  PortionView,
  ProgrammeSummary,
  ProgrammeView,
  RenditionPage,
  RenditionState,
  RenditionSummary,
  RenditionView,
  StripsView,
  HardwareView,
  SystemView,
  TakeInView,
  WorkingOrderView,
} from '../../contract/views.ts';
import type { SoundingRequest, SoundingStanding } from '../../contract/sounding.ts';
import type { ScaleView, TrialPlan, TrialRequest, TrialView, TriedRequest } from '../../contract/trial.ts';
import type { FoldersRequest } from '../../contract/system.ts';
import type { BatchPlan, BatchRequest, BatchSummary, BatchView } from '../../contract/batch.ts';
import type { Defaults } from '../../contract/defaults.ts';
import type { LedgerPage } from '../../contract/ledger.ts';
import type { QueueSettings, QueueView } from '../../contract/queue.ts';
import type { ShelfItem } from '../../core/shelf/shelf.ts';
import type { CameOut } from '../../core/forecast/sizeRecord.ts';
import type { Advisory } from '../../core/advice/advisory.ts';
import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { Measure, SceneQuality } from '../../core/quality/closerLook.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import type { Sounding } from '../../core/sounding/sounding.ts';

/** Whether a rendition is being made or compared. */
export const isUnderway = (state: string): boolean => state === 'running' || state === 'checking';

/** States of renditions on their way, and of those that ended. */
export const ACTIVE_STATES = ['planned', 'queued', 'running', 'checking'] as const satisfies readonly RenditionState[];
export const ENDED_STATES = ['done', 'failed', 'stopped'] as const satisfies readonly RenditionState[];

/** A trial as it is asked for; what is left out is proposed. */
export type NewTrial = Pick<TrialRequest, 'programmeId' | 'recipe'> & Partial<TrialRequest>;

/** An error answer of the server, as something to show. */
export class ApiError extends Error {
  readonly body: ErrorBody['error'];

  constructor(body: ErrorBody['error']) {
    super(body.message);
    this.name = 'ApiError';
    this.body = body;
  }
}

async function call<Answer>(path: string, init: RequestInit = {}): Promise<Answer> {
  let response: Response;
  try {
    response = await fetch(`/api/${path}`, init);
  } catch {
    throw new ApiError({
      code: 'no-server',
      message: 'The server does not answer; start it again with ./linstock start.',
    });
  }
  if (response.status === 204) return undefined as Answer;
  const body: unknown = await response.json();
  if (!response.ok) throw new ApiError((body as ErrorBody).error);
  return body as Answer;
}

/** Names this page, so that it is not told of its own changes. */
export const PAGE = typeof crypto === 'undefined' ? '' : crypto.randomUUID();

const inJson = (method: 'POST' | 'PUT' | 'PATCH' | 'DELETE', body: unknown) => ({
  method,
  headers: { 'content-type': 'application/json', 'linstock-page': PAGE },
  body: JSON.stringify(body),
});

const send = <Answer>(method: 'POST' | 'PUT' | 'PATCH' | 'DELETE', path: string, body: unknown) =>
  call<Answer>(path, inJson(method, body));

/** What so few bytes hold is sent to its end though its page is left; browsers take 64 KiB, all such together (the Fetch standard). */
const MOST_KEPT_ALIVE = 24_000;

/** Keeps work as it is done, also what was done last before a page is left. */
const keep = <Answer>(path: string, body: unknown) => {
  const request = inJson('PUT', body);
  return call<Answer>(path, { ...request, keepalive: request.body.length < MOST_KEPT_ALIVE });
};

const remove = <Answer>(path: string) => call<Answer>(path, { method: 'DELETE' });

/** Every row of a list, page by page. */
async function allPages<Row>(list: string): Promise<Row[]> {
  const rows: Row[] = [];
  for (let after = ''; ;) {
    const page: ListPage<Row> = await call<ListPage<Row>>(`${list}${after && `&after=${after}`}`);
    rows.push(...page.rows);
    if (page.next === null) return rows;
    after = page.next;
  }
}

/** The HTTP interface as functions; all reject with ApiError. */
export const api = {
  /** Every programme, page by page. */
  programmes: () => allPages<ProgrammeSummary>('programmes?'),
  programme: (id: string) => call<ProgrammeView>(`programmes/${id}`),
  takeIns: () => call<TakeInView[]>('takein'),
  beginTakeIn: (paths: readonly string[], subfolders: boolean) =>
    send<TakeInView>('POST', 'takein', { paths, subfolders }),
  stopTakeIn: (id: string) => remove<TakeInView>(`takein/${id}`),
  repoint: (id: string, path: string, replace: boolean) =>
    send<ProgrammeView>('PATCH', `programmes/${id}`, { path, replace }),
  analysis: (id: string) => call<AnalysisView>(`programmes/${id}/analysis`),
  retryAnalysis: (id: string) => call<AnalysisView>(`programmes/${id}/analysis`, { method: 'POST' }),
  strips: (id: string) => call<StripsView>(`programmes/${id}/strips`),
  cuts: (id: string) => call<CutsView>(`programmes/${id}/cuts`),
  cameOut: (id: string) => call<{ readonly cameOut: readonly CameOut[] }>(`programmes/${id}/came-out`),
  frameTimes: (id: string) => call<FrameTimesView>(`programmes/${id}/frame-times`),
  raw: (id: string) => call<unknown>(`programmes/${id}/raw`),
  workingOrder: (id: string) => call<WorkingOrderView>(`programmes/${id}/order`),
  keepOrder: (id: string, order: { readonly recipe: Recipe; readonly briefId: string | null }) =>
    keep<WorkingOrderView>(`programmes/${id}/order`, order),
  portions: (id: string) => call<PortionView[]>(`programmes/${id}/portions`),
  savePortions: (id: string, portions: readonly PortionView[]) =>
    keep<PortionView[]>(`programmes/${id}/portions`, portions),
  forget: (id: string) => remove<undefined>(`programmes/${id}`),
  restore: (id: string) => call<ProgrammeView>(`programmes/${id}/restore`, { method: 'POST' }),
  forgotten: () => call<ForgottenView[]>('forgotten'),
  removeForgotten: (ids: readonly string[]) => send<{ removed: number }>('DELETE', 'forgotten', { ids }),
  dismissTakeIn: (id: string) => send<undefined>('PATCH', `takein/${id}`, { dismissed: true }),
  saveFolders: (folders: FoldersRequest) => send<SystemView>('PATCH', 'system', folders),
  /** Every rendition of a programme, page by page. */
  renditionsOf: (programmeId: string) => allPages<RenditionSummary>(`renditions?programmeId=${programmeId}`),
  /** What runs and waits, in the order of its turn, and how the queue goes. */
  queue: (limit: number) => call<QueueView>(`queue?limit=${limit}`),
  changeQueue: (change: Partial<QueueSettings>) => send<QueueView>('PATCH', 'queue', change),
  changeRendition: (id: string, change: { readonly position?: number; readonly paused?: boolean }) =>
    send<RenditionView>('PATCH', `renditions/${id}`, change),
  again: (id: string) => call<RenditionView>(`renditions/${id}/again`, { method: 'POST' }),
  ledger: ({ words, state, order }: { words: string; state: string | null; order: string }, after: string) =>
    call<LedgerPage>(`ledger?${new URLSearchParams({ words, order, after, ...(state ? { state } : {}) }).toString()}`),
  renameFile: (id: string, name: string) => send<RenditionView>('PATCH', `renditions/${id}/output`, { name }),
  deleteFile: (id: string) => remove<RenditionView>(`renditions/${id}/output`),
  defaults: () => call<Defaults>('defaults'),
  keepDefaults: (defaults: Defaults) => send<Defaults>('PUT', 'defaults', defaults),
  shelf: (list: string) => call<ShelfItem[]>(list),
  putOnShelf: <Item>(list: string, item: object) => send<Item>('POST', list, item),
  changeOnShelf: (list: string, id: string, change: object) => send<ShelfItem>('PATCH', `${list}/${id}`, change),
  removeFromShelf: (list: string, id: string) => remove<undefined>(`${list}/${id}`),
  hardware: () => call<HardwareView>('system/hardware'),
  trialsOf: (programmeId: string) => call<TrialView[]>(`programmes/${programmeId}/trials`),
  tried: (programmeId: string, order: TriedRequest) =>
    send<{ readonly tried: Sounding | null }>('POST', `programmes/${programmeId}/tried`, order),
  planTrial: (request: NewTrial) => send<TrialPlan>('POST', 'trials?dry', request),
  askTrial: (request: NewTrial) => send<{ readonly id: string }>('POST', 'trials', request),
  stopTrial: (id: string) => remove<TrialView>(`trials/${id}`),
  scale: (programmeId: string, measure: Measure) =>
    call<ScaleView>(`programmes/${programmeId}/scale?measure=${measure}`),
  batches: () => call<BatchSummary[]>('batches'),
  batch: (id: string) => call<BatchView>(`batches/${id}`),
  planBatch: (request: Partial<BatchRequest>, signal: AbortSignal) =>
    call<BatchPlan>('batches?dry', { ...inJson('POST', request), signal }),
  /** Has measured what is not known of it. */
  measureBatch: (request: Partial<BatchRequest>) => send<BatchPlan>('POST', 'batches?dry&measure', request),
  moveBatch: (id: string, position: number) => send<BatchView>('PATCH', `batches/${id}`, { position }),
  stopBatch: (id: string) => call<BatchView>(`batches/${id}`, { method: 'DELETE' }),
  askBatch: (request: Partial<BatchRequest>) => send<{ readonly id: string }>('POST', 'batches', request),
  /** @param row - Counted from 0; null takes all that were not made, but for what was left out by hand. */
  batchAgain: (id: string, row: number | null) =>
    call<BatchView>(`batches/${id}/again${row === null ? '' : `?row=${row}`}`, { method: 'POST' }),
  /** How others ended, the latest first. */
  ended: (after: string | null) =>
    call<RenditionPage>(`renditions?newest&limit=50&state=${ENDED_STATES.join(',')}${after ? `&after=${after}` : ''}`),
  rendition: (id: string) => call<RenditionView>(`renditions/${id}`),
  order: (request: Partial<RenditionRequest>) => send<RenditionView>('POST', 'renditions', request),
  stop: (id: string) => remove<RenditionView>(`renditions/${id}`),
  media: (folder: string | null) =>
    call<MediaListing>(`media${folder === null ? '' : `?folder=${encodeURIComponent(folder)}`}`),
  system: () => call<SystemView>('system'),
  speeds: () => call<MachineSpeeds>('speeds'),
  sounding: (programmeId: string, wanted: SoundingRequest) =>
    send<Sounding | SoundingStanding>('POST', `programmes/${programmeId}/sounding`, wanted),
  frameSize: (programmeId: string, order: TriedRequest) =>
    send<{ readonly size: FrameSize | null; readonly reason: string | null }>(
      'POST',
      `programmes/${programmeId}/frame-size`,
      order,
    ),
  /** What was found in its master that a rendition has as well. */
  advisoriesOf: (id: string) => call<readonly Advisory[]>(`renditions/${id}/advisories`),
  captionsOf: (id: string) => call<readonly CaptionView[]>(`renditions/${id}/captions`),
  scenesOf: (id: string) => call<{ readonly scenes: readonly SceneQuality[] }>(`renditions/${id}/scenes`),
  qualities: async (id: string): Promise<string> => (await fetch(`/api/renditions/${id}/quality.csv`)).text(),
};

export const frameOfProgramme = (id: string, frame: number, width?: number) =>
  `/api/programmes/${id}/frames/${frame}${width ? `?width=${width}` : ''}`;

export const fileOfProgramme = (id: string) => `/api/programmes/${id}/file`;

export const standInPiece = (id: string, number: number) => `/api/programmes/${id}/standin/${number}`;

export const stripPicture = (id: string, number: number) => `/api/programmes/${id}/strips/${number}`;

export const captionsFile = (id: string, number: number) => `/api/renditions/${id}/captions/${number}`;

export const masterOfRendition = (id: string, frame: number) => `/api/renditions/${id}/master/${frame}`;

export const frameOfRendition = (id: string, frame: number) => `/api/renditions/${id}/frames/${frame}`;

export const fileOfRendition = (id: string) => `/api/renditions/${id}/file`;
