import { webTypeOf } from '../../../../core/programme/playable.ts';
import { identityOf, requireUnchanged } from '../../../../server/programmes/masters.ts';
import { findProgramme } from '../../../../server/programmes/programmes.ts';
import { fileRoute } from '../../../../server/sendFile.ts';

export const config = { api: { externalResolver: true } };

/** The bytes of a master, for browsers that play it as it is. */
export default fileRoute(async ({ context }, id) => {
  const programme = await findProgramme(context, id);
  await requireUnchanged(identityOf(programme));
  const type = webTypeOf(programme.facts)?.split(';')[0] ?? 'application/octet-stream';
  return { path: programme.path, type, missing: `There is no file at ${programme.path}.` };
});
