import type { RenditionRequest } from '../../contract/recipe.ts';
import type { ErrorBody, MediaListing, ProgrammeView, RenditionView, SystemView } from '../../contract/views.ts';
import type { VideoCodec } from '../../core/codec/tables.ts';
import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { Sounding } from '../../core/rate/sounding.ts';

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

const post = <Answer>(path: string, body: unknown) =>
  call<Answer>(path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });

const remove = <Answer>(path: string) => call<Answer>(path, { method: 'DELETE' });

/** The HTTP interface as functions; all reject with ApiError. */
export const api = {
  programmes: () => call<ProgrammeView[]>('programmes'),
  programme: (id: string) => call<ProgrammeView>(`programmes/${id}`),
  takeIn: (path: string) => post<ProgrammeView>('programmes', { path }),
  forget: (id: string) => remove<undefined>(`programmes/${id}`),
  renditions: () => call<RenditionView[]>('renditions'),
  order: (request: Partial<RenditionRequest>) => post<RenditionView>('renditions', request),
  stop: (id: string) => remove<RenditionView>(`renditions/${id}`),
  media: (folder: string | null) =>
    call<MediaListing>(`media${folder === null ? '' : `?folder=${encodeURIComponent(folder)}`}`),
  system: () => call<SystemView>('system'),
  sounding: (programmeId: string, codec: VideoCodec, size: FrameSize) =>
    call<Sounding | { state: 'measuring' }>(
      `programmes/${programmeId}/sounding?codec=${codec}&width=${size.width}&height=${size.height}`,
    ),
  qualities: async (id: string): Promise<string> => (await fetch(`/api/renditions/${id}/quality.csv`)).text(),
};

export const frameOfProgramme = (id: string, frame: number, width?: number) =>
  `/api/programmes/${id}/frames/${frame}${width ? `?width=${width}` : ''}`;

export const frameOfRendition = (id: string, frame: number) => `/api/renditions/${id}/frames/${frame}`;

export const fileOfRendition = (id: string) => `/api/renditions/${id}/file?download`;
