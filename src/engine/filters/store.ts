import type { PixelFormat, Store } from '../../core/picture/store.ts';

/** The engine's names of pixel formats. */
export const ENGINE_FORMAT: Readonly<Record<PixelFormat, string>> = { '420p8': 'yuv420p' };

/** Scaling to a rounded size leaves pixels a little off square. */
export function renderStore({ format }: Store): string {
  return `format=${ENGINE_FORMAT[format]},setsar=1`;
}
