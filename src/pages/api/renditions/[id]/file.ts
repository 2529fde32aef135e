import { Refusal } from '../../../../server/refusal.ts';
import { findRendition } from '../../../../server/renditions/renditions.ts';
import { fileRoute } from '../../../../server/sendFile.ts';

/** The stream is answered by hand; Next must not warn that nothing was returned. */
export const config = { api: { externalResolver: true } };

/** The bytes of a result. Here and not beside the other routes, since those drop the length. */
export default fileRoute(async ({ context }, id) => {
  const rendition = await findRendition(context, id);
  const missing = `There is no file at ${rendition.path}; it is made once the rendition is done, and may have been moved since.`;
  if (!rendition.has_file) throw new Refusal('file-not-there', missing);
  return { path: rendition.path, type: rendition.plan.picture ? 'video/mp4' : 'audio/mp4', missing };
});
