import type { Deinterlace } from '../../core/picture/deinterlace.ts';

/** Marked frames alone, or all of them in a known order. */
const FIELDS: Readonly<Record<Deinterlace['fields'], string>> = {
  'top-first': 'parity=tff:deint=all',
  'bottom-first': 'parity=bff:deint=all',
  'where-marked': 'deint=interlaced',
};

export function renderDeinterlace({ fields, eachField }: Deinterlace): string {
  return `bwdif=mode=${eachField ? 'send_field' : 'send_frame'}:${FIELDS[fields]}`;
}
