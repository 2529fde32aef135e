import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { LumaChroma } from '../../core/picture/lumaChroma.ts';
import type { Pad } from '../../core/picture/pad.ts';
import { partsOf, type PixelFormat } from '../../core/picture/store.ts';
import { engineFormat } from './store.ts';

/**
 * Two bars made of the picture's own frames, so that they come when it comes, at whatever rate; the engine's own padding stores every colour
 * by the matrix of SD. A graph holds one of them at most: its labels are names.
 */
export function renderPad({ inside, edges, beside, format }: Pad): string {
  const isAcross = edges.left + edges.right > 0;
  const [before, after] = isAcross ? [edges.left, edges.right] : [edges.top, edges.bottom];
  // A bar of no pixels cannot be made.
  const barOf = (pixels: number, isFirst: boolean) => {
    if (pixels === 0) return [];
    const bar = isAcross ? { width: pixels, height: inside.height } : { width: inside.width, height: pixels };
    return [beside === 'blur' ? renderBlur(bar, inside, isAcross, isFirst) : renderColour(bar, beside, format)];
  };
  const parts = [...barOf(before, true), 'null', ...barOf(after, false)];
  const labels = (kind: string) => parts.map((_, index) => `[${kind}${index}]`);
  const [taken, made] = [labels('taken'), labels('made')];
  return [
    `format=${engineFormat(format)},setsar=1,split=${parts.length}${taken.join('')}`,
    ...parts.map((filters, index) => `${taken[index]}${filters}${made[index]}`),
    `${made.join('')}${isAcross ? 'hstack' : 'vstack'}=inputs=${parts.length}`,
  ].join(';');
}

function renderColour({ width, height }: FrameSize, { y, cb, cr }: LumaChroma, format: PixelFormat): string {
  const { depth, alpha } = partsOf(format);
  const stored = (value: number) => Math.round(value * 2 ** (depth - 8));
  const opaque = alpha ? `:a=${2 ** depth - 1}` : '';
  return `scale=w=${width}:h=${height}:flags=neighbor,setsar=1,lutyuv=y=${stored(y)}:u=${stored(cb)}:v=${stored(cr)}${opaque}`;
}

/** So many pixels along the frame are left before it is blurred: nothing finer is seen of it afterwards, however large it is. */
const COARSE = 64;

/** Of the picture as large as covers the whole frame, what lies under one of the bars. */
function renderBlur(bar: FrameSize, inside: FrameSize, isAcross: boolean, isFirst: boolean): string {
  const [length, width] = isAcross ? [inside.width, bar.width] : [inside.height, bar.height];
  const frame = length + 2 * width;
  // Covering the frame, the picture is larger by as much as the frame is, and its own middle is what is seen of it the other way.
  const [long, wide] = [width / frame, length / frame];
  const [w, h] = isAcross ? [long, wide] : [wide, long];
  const end = isFirst ? 0 : 1;
  const [x, y] = isAcross ? [end, 0.5] : [0.5, end];
  const crop = `crop=w=max(2\\,iw*${w.toFixed(6)}):h=max(2\\,ih*${h.toFixed(6)}):x=(iw-ow)*${x}:y=(ih-oh)*${y}`;
  const small = (side: number) => Math.max(4, Math.round((side * COARSE) / Math.max(frame, COARSE)));
  return [
    crop,
    `scale=w=${small(bar.width)}:h=${small(bar.height)}:flags=area`,
    'gblur=sigma=1.5',
    `scale=w=${bar.width}:h=${bar.height}:flags=bicubic`,
    'setsar=1',
  ].join(',');
}
