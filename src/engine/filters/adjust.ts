import { UNADJUSTED, type Adjust } from '../../core/picture/adjust.ts';
import { partsOf } from '../../core/picture/store.ts';
import { renderWorking } from './scale.ts';

/** A table for each plane, in limited range (ITU-T H.273); what is left alone keeps every value, also beyond black and white. */
export function renderAdjust({ from, format, ...wanted }: Adjust): string {
  const { brightness, contrast, saturation, gamma } = wanted;
  const { depth } = partsOf(format);
  const unit = 2 ** (depth - 8);
  const held = (value: string) => `min(1\\,max(0\\,${value}))`;
  const luma = held(`(val-${16 * unit})/${219 * unit}`);
  const bent = held(`${contrast}*(pow(${luma}\\,${1 / gamma})-0.5)+${0.5 + brightness}`);
  const isLuma = (['brightness', 'contrast', 'gamma'] as const).some((key) => wanted[key] !== UNADJUSTED[key]);
  const most = 2 ** depth - 1;
  const chroma = `min(${most}\\,max(0\\,(val-${128 * unit})*${saturation}+${128 * unit}+0.5))`;
  // The table is cut down to whole numbers, so half is added.
  const planes = [
    ...(isLuma ? [`y=${bent}*${219 * unit}+${16 * unit}+0.5`] : []),
    ...(saturation === UNADJUSTED.saturation ? [] : [`u=${chroma}`, `v=${chroma}`]),
  ];
  return `${renderWorking({ from, format })},lutyuv=${planes.join(':')}`;
}
