import { partsOf, type PixelFormat, type Store } from '../../core/picture/store.ts';

/** The engine's name of a pixel format. */
export function engineFormat(format: PixelFormat): string {
  const { chroma, depth, alpha } = partsOf(format);
  return `yuv${alpha ? 'a' : ''}${chroma.replaceAll(':', '')}p${depth > 8 ? `${depth}le` : ''}`;
}

/** Scaling to a rounded size leaves pixels a little off the shape they are to have. */
export function renderStore({ format, pixelAspect }: Store): string {
  const shape = pixelAspect ? `${pixelAspect.num}/${pixelAspect.den}` : '1';
  return `format=${engineFormat(format)},setsar=${shape}`;
}
