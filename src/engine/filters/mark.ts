import { SAFE_MARGIN, shareOfPlace, type Mark } from '../../core/picture/mark.ts';
import { partsOf } from '../../core/picture/store.ts';
import { SHOWN_LINES } from './captions.ts';
import { renderWorking, SCALER_MATRIX } from './scale.ts';
import { engineFormat } from './store.ts';

/** A mark lies under these names where the engine works: a path would have to be escaped. */
export const MARK_SCRIPT = 'mark.ass';
export const MARK_PICTURE = 'mark';

/** A graph holds one of them at most: its labels are names. */
export function renderMark(step: Mark): string {
  const ready = renderWorking(step);
  return step.text === null ? `${ready},setsar=1${renderPicture(step)}` : `${ready},${renderText(step)}`;
}

function renderText({ shape }: Mark): string {
  return `ass=${MARK_SCRIPT}:original_size=${Math.round(shape * SHOWN_LINES)}x${SHOWN_LINES}`;
}

/** Only its first frame, as large as it may be, in its place of a frame that is otherwise transparent. */
function renderPicture({ picture, shape, place, size, opacity, from, format }: Mark): string {
  const { width, height } = picture;
  const stored = engineFormat(format);
  const { depth, chroma } = partsOf(format);
  const { across, down } = shareOfPlace(place);
  const [most, tall] = [Math.round(width * (1 - 2 * SAFE_MARGIN)), Math.max(1, Math.round(height * size))];
  // In pixels that are not square it is as much narrower as the picture is.
  const squeeze = width / height / shape;
  const fitted = `scale=w=max(1\\,min(${most}\\,round(iw*${(tall * squeeze).toFixed(6)}/ih))):h=max(1\\,min(${tall}\\,round(ih*${(most / squeeze).toFixed(6)}/iw))):flags=bicubic`;
  const at = (side: string, own: string, share: number) =>
    `${SAFE_MARGIN}*${side}+${share}*(${side}*${1 - 2 * SAFE_MARGIN}-${own})`;
  const placed = `pad=w=${width}:h=${height}:x=${at('ow', 'iw', across)}:y=${at('oh', 'ih', down)}:color=black@0`;
  const grey = depth === 8 ? 'gray' : `gray${depth}le`;
  const [chromaWidth, chromaHeight] = [
    chroma === '4:4:4' ? width : Math.ceil(width / 2),
    chroma === '4:2:0' ? Math.ceil(height / 2) : height,
  ];
  const matrix = SCALER_MATRIX[from.matrix] ?? 'bt709';
  const half = (label: string) =>
    `[${label}whole]scale=w=${chromaWidth}:h=${chromaHeight}:flags=area,setsar=1[${label}]`;
  return [
    '[under]',
    // What is transparent must not darken what stands beside it.
    [
      `movie=${MARK_PICTURE},trim=end_frame=1,setpts=0,format=gbrap,premultiply=inplace=1,${fitted},unpremultiply=inplace=1,format=rgba`,
      `colorchannelmixer=aa=${opacity},${placed},setsar=1,format=rgba,split[colours][shape]`,
    ].join(','),
    `[colours]scale=out_color_matrix=${matrix}:out_range=tv:flags=bicubic+accurate_rnd+full_chroma_int,format=${stored},setsar=1[over]`,
    `[shape]alphaextract,format=gray,scale=in_range=pc:out_range=pc,format=${grey},setsar=1,split=3[y][uwhole][vwhole]`,
    half('u'),
    half('v'),
    `[y][u][v]mergeplanes=0x001020:${stored},setsar=1[mask]`,
    `[under][over][mask]maskedmerge`,
  ].join(';');
}
