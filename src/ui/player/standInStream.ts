import type { ProgrammeView } from '../../contract/views.ts';
import { countPieces, lightCopyType, pieceAt, pieceOf } from '../../core/programme/standIn.ts';
import type { FrameClock } from '../../core/timing/frameClock.ts';
import { standInPiece } from '../hooks/api.ts';

/** Pieces fetched before they are needed. */
const AHEAD = 2;

/** What lies further back than this is given up, so that memory stays small on long programmes. */
const KEPT_BEHIND_SECONDS = 60;

/**
 * Feeds a media element with the stand-in of a programme, piece by piece from where it plays.
 *
 * @param onProblem - Told why nothing more comes.
 * @returns Ends it.
 */
export function streamStandIn(
  media: HTMLMediaElement,
  programme: ProgrammeView,
  clock: FrameClock,
  onProblem: (message: string) => void,
): () => void {
  const source = new MediaSource();
  const address = URL.createObjectURL(source);
  const ending = new AbortController();
  const there = new Set<number>();
  let isBusy = false;
  let buffer: SourceBuffer | null = null;

  const feed = async () => {
    if (isBusy || !buffer || ending.signal.aborted) return;
    isBusy = true;
    try {
      for (let next = nextPiece(); next !== null; next = nextPiece()) {
        const piece = pieceOf(programme, clock, next);
        if (!piece) break;
        const answer = await fetch(standInPiece(programme.id, next), { signal: ending.signal });
        if (!answer.ok) throw new Error('The stand-in could not be made; the master may be damaged here.');
        const bytes = await answer.arrayBuffer();
        await dropOld(buffer);
        buffer.timestampOffset = piece.startSeconds;
        await append(buffer, bytes);
        there.add(next);
      }
      if (there.has(countPieces(programme) - 1) && source.readyState === 'open' && !buffer.updating)
        source.endOfStream();
    } catch (error) {
      if (!ending.signal.aborted) onProblem(error instanceof Error ? error.message : String(error));
    } finally {
      isBusy = false;
    }
  };
  const nextPiece = (): number | null => {
    const first = pieceAt(programme, clock, media.currentTime);
    for (let piece = first; piece <= first + AHEAD && piece < countPieces(programme); piece += 1) {
      if (!there.has(piece)) return piece;
    }
    return null;
  };
  const dropOld = async (into: SourceBuffer) => {
    const before = media.currentTime - KEPT_BEHIND_SECONDS;
    if (before <= 0) return;
    const last = pieceAt(programme, clock, before);
    const gone = Array.from(there).filter((piece) => piece < last);
    const end = pieceOf(programme, clock, last)?.startSeconds ?? 0;
    if (gone.length === 0 || end <= 0) return;
    into.remove(0, end);
    await settled(into);
    gone.forEach((piece) => there.delete(piece));
  };
  const onMove = () => void feed();

  source.addEventListener('sourceopen', () => {
    URL.revokeObjectURL(address);
    source.duration = programme.durationSeconds;
    buffer = source.addSourceBuffer(lightCopyType(programme));
    void feed();
  });
  media.addEventListener('timeupdate', onMove);
  media.addEventListener('seeking', onMove);
  media.src = address;
  return () => {
    ending.abort();
    media.removeEventListener('timeupdate', onMove);
    media.removeEventListener('seeking', onMove);
    media.removeAttribute('src');
    media.load();
  };
}

async function append(buffer: SourceBuffer, bytes: ArrayBuffer): Promise<void> {
  buffer.appendBuffer(bytes);
  await settled(buffer);
}

function settled(buffer: SourceBuffer): Promise<void> {
  if (!buffer.updating) return Promise.resolve();
  return new Promise((resolve, reject) => {
    buffer.addEventListener('updateend', () => resolve(), { once: true });
    buffer.addEventListener('error', () => reject(new Error('The stand-in could not be played.')), { once: true });
  });
}
