import { C1, C2, C3, M1, M2, quantisedLight } from '../../core/picture/brightness.ts';
import { partsOf } from '../../core/picture/store.ts';
import { STANDARD_COLOUR, type ToneMap } from '../../core/picture/toneMap.ts';
import { REFERENCE_WHITE } from '../../core/programme/colour.ts';
import { renderScale } from './scale.ts';
import { engineFormat } from './store.ts';

/**
 * Light is quantised perceptually, each of red, green and blue is bent so that the brightest comes out just white (ITU-R BT.2390, section 5.4,
 * from memory), and then colours are brought to the primaries of HD: what is brighter than it may be would go beyond them in another hue.
 * Nothing is left to the tags of frames, which may say less.
 */
export function renderToneMap({ from, format, peak }: ToneMap): string {
  const { primaries, transfer, matrix } = STANDARD_COLOUR;
  const curve = bend(peak);
  return [
    renderScale({ size: null, from, to: { matrix: from.matrix, range: 'limited' } }),
    `format=${engineFormat(format)}`,
    `zscale=primariesin=${from.primaries}:transferin=${from.transfer}:matrixin=${from.matrix}:rangein=limited:primaries=${from.primaries}:transfer=smpte2084:matrix=gbr:range=full:npl=${REFERENCE_WHITE}`,
    // It is looked up in a table; the scaler knows no transparency in 12 bits.
    partsOf(format).alpha ? 'format=gbrap16le' : 'format=gbrp12le',
    `lutrgb=r='${curve}':g='${curve}':b='${curve}'`,
    `zscale=transferin=${transfer}:primariesin=${from.primaries}:matrixin=gbr:rangein=full:transfer=${transfer}:primaries=${primaries}:matrix=${matrix}:range=limited`,
    `format=${engineFormat(format)}`,
  ].join(',');
}

/** From a signal of quantised light to one of a display of BT.1886, as an expression of the engine's. */
function bend(peak: number): string {
  const top = quantisedLight(peak);
  const most = quantisedLight(REFERENCE_WHITE) / top;
  const knee = 1.5 * most - 0.5;
  const t = 'ld(1)';
  const spline = `(2*${t}^3-3*${t}^2+1)*${knee}+(${t}^3-2*${t}^2+${t})*${1 - knee}+(3*${t}^2-2*${t}^3)*${most}`;
  return [
    `st(0,min(1,val/maxval/${top}))`,
    `st(1,(ld(0)-${knee})/${1 - knee})`,
    `st(2,(${top}*if(lt(ld(0),${knee}),ld(0),${spline}))^${1 / M2})`,
    `st(3,(max(0,ld(2)-${C1})/(${C2}-${C3}*ld(2)))^${1 / M1})`,
    `maxval*min(1,ld(3)*${10_000 / REFERENCE_WHITE})^${1 / 2.4}`,
  ].join(';');
}
