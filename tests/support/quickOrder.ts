import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { drawMaster } from './footage.ts';

/** Other work may hold the machine up. */
export const PATIENT = { timeout: 30_000, interval: 50 };

/** A recipe that is done with in a moment. */
export const QUICK = {
  name: 'Quick',
  container: 'mp4',
  video: { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: 34 } },
  picture: { fit: { height: 90 } },
  audio: { codec: 'aac', kbps: 64 },
};

/** Eight seconds of grain, and one second of a plain picture. */
export function drawFilms(folder: string): { readonly film: string; readonly short: string } {
  mkdirSync(folder, { recursive: true });
  const [film, short] = [path.join(folder, 'film.mov'), path.join(folder, 'short.mov')];
  drawMaster(film, { seconds: 8, size: '640x360', grain: 12 });
  drawMaster(short, { seconds: 1, size: '320x180' });
  return { film, short };
}
