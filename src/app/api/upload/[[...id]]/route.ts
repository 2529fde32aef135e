import { route } from '../../../../server/http.ts';

interface Params {
  readonly id?: string[];
}

/** The tus protocol: create, ask how far, go on, give up. */
const handle = route<Params>(({ uploads }, request) => uploads.handle(request));

export { handle as DELETE, handle as GET, handle as HEAD, handle as OPTIONS, handle as PATCH, handle as POST };
