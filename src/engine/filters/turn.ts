import type { Turn } from '../../core/picture/turn.ts';

const TURNED: Readonly<Record<Turn['degrees'], readonly string[]>> = {
  0: [],
  90: ['transpose=clock'],
  180: ['hflip', 'vflip'],
  270: ['transpose=cclock'],
};

export function renderTurn({ degrees, flip }: Turn): string {
  const mirrored = flip ? [flip === 'horizontal' ? 'hflip' : 'vflip'] : [];
  return [...TURNED[degrees], ...mirrored].join(',');
}
