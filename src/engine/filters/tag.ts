import type { Tag } from '../../core/picture/tag.ts';

export function renderTag({ colour }: Tag): string {
  return `setparams=range=tv:color_primaries=${colour.primaries}:color_trc=${colour.transfer}:colorspace=${colour.matrix}`;
}
