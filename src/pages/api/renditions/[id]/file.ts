import { answerResult } from '../../../../server/renditions/results.ts';
import { fileRoute } from '../../../../server/files/sendFile.ts';

/** The stream is answered by hand; Next must not warn that nothing was returned. */
export const config = { api: { externalResolver: true } };

/** The bytes of a result. Here and not beside the other routes, since those drop the length. */
export default fileRoute(({ context }, id) => answerResult(context, id));
