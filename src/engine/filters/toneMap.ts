import { STANDARD_COLOUR, type ToneMap } from '../../core/picture/toneMap.ts';
import { REFERENCE_WHITE } from '../../core/programme/colour.ts';
import { partsOf } from '../../core/picture/store.ts';
import { renderScale } from './scale.ts';
import { engineFormat } from './store.ts';

/**
 * Light is made linear, colours are brought to those of HD, and what is brighter than about a third of white is bent so that the brightest
 * comes out just white. Nothing is left to the tags of frames, which may say less.
 */
export function renderToneMap({ from, format, peak }: ToneMap): string {
  const { primaries, transfer, matrix } = STANDARD_COLOUR;
  const { alpha } = partsOf(format);
  return [
    renderScale({ size: null, from, to: { matrix: from.matrix, range: 'limited' } }),
    `format=${engineFormat(format)}`,
    `zscale=primariesin=${from.primaries}:transferin=${from.transfer}:matrixin=${from.matrix}:rangein=limited:transfer=linear:npl=${REFERENCE_WHITE}`,
    `format=gbr${alpha ? 'a' : ''}pf32le`,
    `zscale=primaries=${primaries}`,
    `tonemap=tonemap=mobius:desat=0:peak=${(peak / REFERENCE_WHITE).toFixed(3)}`,
    `zscale=transfer=${transfer}:matrix=${matrix}:range=limited`,
    `format=${engineFormat(format)}`,
  ].join(',');
}
