import type { Crop } from '../../core/picture/crop.ts';

export function renderCrop({ edges: { top, bottom, left, right } }: Crop): string {
  return `crop=w=iw-${left + right}:h=ih-${top + bottom}:x=${left}:y=${top}:exact=1`;
}
