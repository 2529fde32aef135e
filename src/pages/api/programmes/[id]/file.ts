import { answerMaster } from '../../../../server/programmes/masters.ts';
import { fileRoute } from '../../../../server/files/sendFile.ts';

export const config = { api: { externalResolver: true } };

/** The bytes of a master, for browsers that play it as it is. */
export default fileRoute(({ context }, id) => answerMaster(context, id));
