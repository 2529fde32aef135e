import { route } from '../../../../../server/http.ts';
import { parseWith } from '../../../../../contract/strictObject.ts';
import { soundingQuerySchema, type SoundingQuery } from '../../../../../contract/sounding.ts';
import { refuseFields } from '../../../../../server/refusal.ts';

interface Params {
  readonly id: string;
}

/** 200 with the sounding, or 202 while it is measured. */
export const GET = route<Params>(async ({ soundings }, request, { id }) => {
  const query = new URL(request.url).searchParams;
  const parsed = parseWith<SoundingQuery>(soundingQuerySchema, {
    codec: query.get('codec') ?? undefined,
    width: Number(query.get('width')),
    height: Number(query.get('height')),
    deinterlace: query.get('deinterlace'),
    crop: readCrop(query.get('crop')),
  });
  if (!parsed.ok) throw refuseFields(parsed.faults);
  const { codec, width, height, ...preparation } = parsed.value;
  const sounding = await soundings.ask(id, codec, { width, height }, preparation);
  return sounding ? Response.json(sounding) : Response.json({ state: 'measuring' }, { status: 202 });
});

/** `138,138,0,0`: top, bottom, left, right. */
function readCrop(text: string | null): object | null {
  if (text === null) return null;
  const [top, bottom, left, right] = text.split(',').map(Number);
  return { top, bottom, left, right };
}
