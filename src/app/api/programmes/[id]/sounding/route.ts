import { soundingRequestSchema } from '../../../../../contract/sounding.ts';
import { readBody, readQuestion, route } from '../../../../../server/http.ts';
import { askSounding, viewSounding } from '../../../../../server/soundings/soundings.ts';

interface Params {
  readonly id: string;
}

/** 200 with the sounding, or 202 with how it stands; measures nothing. */
export const GET = route<Params>(async ({ context }, request, { id }) => {
  const query = new URL(request.url).searchParams;
  const [flavour, format] = query.get('stored')?.split(',') ?? [];
  const asked = readQuestion(soundingRequestSchema, {
    codec: query.get('codec') ?? undefined,
    stored: flavour === undefined ? null : { flavour, format },
    alpha: query.get('alpha') === 'true',
    width: Number(query.get('width')),
    height: Number(query.get('height')),
    deinterlace: query.get('deinterlace'),
    crop: readNumbers(query.get('crop'), ['top', 'bottom', 'left', 'right']),
    rotate: Number(query.get('rotate') ?? 0),
    flip: query.get('flip'),
    pad: readPadding(query.get('pad')),
    dynamicRange: query.get('dynamicRange') ?? undefined,
    frameRate: readNumbers(query.get('frameRate')?.replace('/', ',') ?? null, ['num', 'den']),
    portion: readNumbers(query.get('portion'), ['inFrame', 'outFrame']),
  });
  return answer(await viewSounding(context, id, asked));
});

/** Asks for it to be measured: 200 when it is there already, otherwise 202; an event tells when it is there. */
export const POST = route<Params>(async ({ context, scheduler }, request, { id }) =>
  answer(await askSounding(context, scheduler, id, await readBody(request, soundingRequestSchema))),
);

function answer(found: object): Response {
  return Response.json(found, { status: 'state' in found ? 202 : 200 });
}

/** `1080,1920,#000000`: a width, a height, and what is beside the picture. */
function readPadding(text: string | null): object | null {
  return text === null ? null : { ...readNumbers(text, ['width', 'height']), with: text.split(',')[2] };
}

/** `138,138,0,0` for a crop: top, bottom, left, right; `0,249` for a portion: its first and last frame. */
function readNumbers(text: string | null, names: readonly string[]): object | null {
  if (text === null) return null;
  const numbers = text.split(',').map(Number);
  return Object.fromEntries(names.map((name, index) => [name, numbers[index]]));
}
