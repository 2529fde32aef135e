import { bufferOf } from '../../core/rate/bufferModel.ts';
import type { RateChoice } from '../../core/recipe/recipe.ts';
import { PICTURE_KBPS_RANGE } from '../../core/video/codecs.ts';
import { readRate, TypedField } from './TypedField.tsx';

interface Props {
  readonly rate: Extract<RateChoice, { readonly maxKbps: number | null }>;
  readonly apply: (rate: RateChoice) => void;
  readonly close?: () => void;
}

const read = readRate(...PICTURE_KBPS_RANGE);

/** The rate that is never gone above, and the buffer it is counted over; left empty, a quality has none. */
export function HighestField({ rate, apply, close }: Props) {
  const { maxKbps, bufferKbit } = rate;
  const isOptional = rate.mode === 'quality';
  return (
    <>
      <TypedField
        {...(close ? { hasFocus: true, onLeave: close } : {})}
        label="Highest rate"
        unit="kb/s"
        value={maxKbps}
        write={(value) => value?.toString() ?? ''}
        read={(text) => (text.trim() === '' && isOptional ? { value: null } : read(text))}
        onChange={(value) => {
          if (rate.mode === 'quality') apply({ ...rate, maxKbps: value });
          else if (value !== null) apply({ ...rate, maxKbps: value });
        }}
        hint={isOptional ? 'Left empty, hard parts take what they need.' : 'Never gone above, over the buffer below.'}
      />
      {maxKbps !== null && (
        <TypedField
          label="Buffer of the receiver"
          unit="kbit"
          value={bufferKbit}
          write={(value) => value?.toString() ?? ''}
          read={readBuffer}
          onChange={(value) => apply({ ...rate, bufferKbit: value })}
          hint={`Left empty, it is two seconds of the highest rate: ${(bufferOf(maxKbps, null).bits / 1000).toLocaleString('en')} kbit.`}
        />
      )}
    </>
  );
}

/** Reads a size in kilobits, or nothing. */
export function readBuffer(text: string): { value: number | null } | { fault: string } {
  if (text.trim() === '') return { value: null };
  const value = Number(text.trim().replaceAll(',', ''));
  return Number.isInteger(value) && value >= 10 && value <= 4_000_000
    ? { value }
    : { fault: 'Type a number of kilobits from 10 to 4,000,000, or nothing.' };
}
