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
  const bars = isAcross
    ? [edges.left, edges.right].map((width) => ({ width, height: inside.height }))
    : [edges.top, edges.bottom].map((height) => ({ width: inside.width, height }));
  const [before, after] = bars.map((size, index) => {
    if (beside !== 'blur') return renderColour(size, beside, format);
    return renderBlur(size, inside, isAcross, index === 0);
  });
  // A bar of no pixels cannot be made.
  const isThere = bars.map(({ width, height }) => width > 0 && height > 0);
  const parts = [...(isThere[0] ? ['[before]'] : []), '[middle]', ...(isThere[1] ? ['[after]'] : [])];
  const sources = parts.map((part) => part.replace(']', '-source]'));
  return [
    `format=${engineFormat(format)},setsar=1,split=${parts.length}${sources.join('')}`,
    ...(isThere[0] ? [`[before-source]${before}[before]`] : []),
    '[middle-source]null[middle]',
    ...(isThere[1] ? [`[after-source]${after}[after]`] : []),
    `${parts.join('')}${isAcross ? 'hstack' : 'vstack'}=inputs=${parts.length}`,
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
  // Covering the frame, the picture is larger by this, and its own middle is what is seen of it the other way.
  const larger = frame / length;
  const part = width / larger;
  const [long, wide] = [part / length, 1 / larger];
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
