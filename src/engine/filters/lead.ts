import type { Lead } from '../../core/picture/lead.ts';

export function renderLead({ frames }: Lead): string {
  return `trim=start_frame=${frames}`;
}
