import { useWorkKey } from '../hooks/useWorkKey.ts';
import type { Player } from './usePlayer.ts';

/** The keys that move the playhead. */
export function useTransportKeys(player: Player, sceneChanges: readonly number[]): void {
  const { frame, timeline, seek, pause } = player;
  const stepTo = (wanted: number) => {
    pause();
    seek(wanted);
  };
  const second = Math.max(1, Math.round(timeline.framesPerSecond));
  useWorkKey('space', player.toggle);
  useWorkKey('k', pause);
  useWorkKey('l', player.forward);
  useWorkKey('j', player.backward);
  useWorkKey('left', () => stepTo(frame - 1));
  useWorkKey('right', () => stepTo(frame + 1));
  useWorkKey('shift+left', () => stepTo(frame - second));
  useWorkKey('shift+right', () => stepTo(frame + second));
  useWorkKey('home', () => stepTo(0));
  useWorkKey('end', () => stepTo(timeline.frames - 1));
  useWorkKey('bracketleft', () => stepTo(sceneChanges.findLast((change) => change < frame) ?? 0));
  useWorkKey('bracketright', () => stepTo(sceneChanges.find((change) => change > frame) ?? timeline.frames - 1));
}
