import { writeShare } from '../../core/recipe/describeRecipe.ts';
import type { RateChoice } from '../../core/recipe/recipe.ts';
import { writeSize } from '../../core/text.ts';
import { PICTURE_KBPS_RANGE, RATED, type RatedCodec } from '../../core/video/codecs.ts';
import { formatBytes, parseSize } from '../kit/format.ts';
import { readBuffer } from './HighestField.tsx';
import { readRate, readWhole, TypedField } from './TypedField.tsx';

interface Props {
  readonly rate: RateChoice;
  readonly codec: RatedCodec;
  readonly apply: (rate: RateChoice) => void;
  readonly close: () => void;
}

/** How much of what is held to. */
export function RateAmount({ rate, codec, apply, close }: Props) {
  const field = { hasFocus: true, onLeave: close } as const;
  switch (rate.mode) {
    case 'quality': {
      const { best, worst, hint } = RATED[codec].quality;
      return (
        <TypedField
          {...field}
          label="Quality"
          value={rate.value}
          write={String}
          read={readWhole(best, worst, 'a whole number')}
          onChange={(value) => apply({ ...rate, value })}
          hint={hint}
        />
      );
    }
    case 'average':
    case 'variable':
    case 'constant':
      return (
        <>
          <TypedField
            {...field}
            label="Rate"
            unit="kb/s"
            value={rate.kbps}
            write={String}
            read={readRate(...PICTURE_KBPS_RANGE)}
            onChange={(kbps) => apply({ ...rate, kbps })}
            hint="Of the picture alone; sound comes on top."
          />
          {rate.mode === 'constant' && (
            <TypedField
              label="Buffer of the receiver"
              unit="kbit"
              value={rate.bufferKbit}
              write={(value) => value?.toString() ?? ''}
              read={readBuffer}
              onChange={(bufferKbit) => apply({ ...rate, bufferKbit })}
              hint="Left empty, it is one second of the rate."
            />
          )}
        </>
      );
    case 'size':
      return (
        <TypedField
          {...field}
          label="Whole file, at most"
          value={rate.bytes}
          write={writeSize}
          read={readSizeField}
          onChange={(bytes) => apply({ ...rate, bytes })}
          hint={`MB are powers of ten; MiB are taken too. ${formatBytes(rate.bytes)} is ${(rate.bytes / 2 ** 20).toFixed(2)} MiB.`}
        />
      );
    case 'share':
      return (
        <TypedField
          {...field}
          label="Of the source’s bytes, at most"
          unit="%"
          value={rate.ofSource}
          write={(share) => writeShare(share).split(' ')[0]!}
          read={readShare}
          onChange={(ofSource) => apply({ ...rate, ofSource })}
          hint="Of what the portion takes in the master; 100 % is as large as the source."
        />
      );
  }
}

function readSizeField(text: string): { value: number } | { fault: string } {
  const value = parseSize(text);
  return value !== null && value >= 1 ? { value } : { fault: 'Type a size such as 48 MB, 1.2 GB or 700 MiB.' };
}

function readShare(text: string): { value: number } | { fault: string } {
  const value = Number(text.trim().replace(/\s*%$/, '').replace(',', '.'));
  return text.trim() !== '' && value >= 0.1 && value <= 400
    ? { value: Number((value / 100).toFixed(5)) }
    : { fault: 'Type a share from 0.1 to 400 per cent.' };
}
