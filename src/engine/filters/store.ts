import { partsOf, type PixelFormat, type Store } from '../../core/picture/store.ts';

/** The engine's name of a pixel format. */
export function engineFormat(format: PixelFormat): string {
  const { chroma, depth, alpha } = partsOf(format);
  return `yuv${alpha ? 'a' : ''}${chroma.replaceAll(':', '')}p${depth > 8 ? `${depth}le` : ''}`;
}

/** Scaling to a rounded size leaves pixels a little off square. */
export function renderStore({ format }: Store): string {
  return `format=${engineFormat(format)},setsar=1`;
}
