import { encodedVideo, type RateChoice } from '../../core/recipe/recipe.ts';
import { describeRate } from '../../core/recipe/describeRecipe.ts';
import { writeSize } from '../../core/text.ts';
import { PICTURE_KBPS_RANGE, VIDEO, type VideoCodec } from '../../core/video/codecs.ts';
import { formatBytes, parseSize } from '../kit/format.ts';
import { Choices } from './Choices.tsx';
import type { OrderPartProps } from './orderPart.ts';
import { Token } from './Token.tsx';
import { readRate, readWhole, TypedField } from './TypedField.tsx';

/** Rates that start a fresh choice of mode (common practice, no source: 720p for the web at 3 to 5 Mb/s). */
const STARTING_KBPS = 3000;

/** How the picture's bits are decided: quality, average rate or a size to fill. */
export function RateTokens({ programme, recipe, change, problemOf }: OrderPartProps) {
  const video = encodedVideo(recipe);
  if (!video) return null;
  const { rate, codec } = video;
  const { averagePasses, onePassFault, fillsBy } = VIDEO[codec];
  const apply = (next: RateChoice) => change({ ...recipe, video: { ...video, rate: next } });
  const said = describeRate(rate);
  const startWith = (mode: RateChoice['mode']): RateChoice => {
    if (mode === rate.mode) return rate;
    if (mode === 'quality') return { mode, value: VIDEO[codec].quality.usual };
    if (mode === 'average') return { mode, kbps: STARTING_KBPS, passes: averagePasses.at(-1) ?? 2 };
    return { mode, bytes: startingCap(programme.durationSeconds) };
  };
  return (
    <>
      <Token label="What is held to" text={said.mode} problem={problemOf('video.rate')}>
        {(close) => (
          <Choices
            label="What is held to"
            value={rate.mode}
            choices={[
              {
                value: 'quality',
                label: 'Constant quality',
                hint: 'Looks the same throughout; the size is what it comes to.',
              },
              { value: 'average', label: 'An average rate', hint: 'The size is nearly known; hard parts look worse.' },
              { value: 'size', label: 'A size to fill', hint: 'Never over it, and filled.' },
            ]}
            onChange={(mode) => {
              apply(startWith(mode));
              close();
            }}
          />
        )}
      </Token>{' '}
      <Token label={AMOUNT_LABELS[rate.mode]} text={said.amount} problem={problemOf('video.rate.bytes')}>
        {(close) => <AmountField rate={rate} codec={codec} apply={apply} close={close} />}
      </Token>
      {rate.mode === 'average' && (
        <>
          {' in '}
          <Token
            label="Passes"
            text={rate.passes === 2 ? 'two passes' : 'one pass'}
            problem={problemOf('video.rate.passes')}
          >
            {(close) => (
              <Choices
                label="Passes"
                value={String(rate.passes)}
                choices={[
                  { value: '2', label: 'Two passes', hint: 'Looks ahead first; spends bits where they are needed.' },
                  {
                    value: '1',
                    label: 'One pass',
                    hint: 'Half the time; misses the rate by more.',
                    missing: averagePasses.includes(1) ? undefined : onePassFault,
                  },
                ]}
                onChange={(passes) => {
                  apply({ ...rate, passes: passes === '2' ? 2 : 1 });
                  close();
                }}
              />
            )}
          </Token>
        </>
      )}
      {rate.mode === 'size' && (fillsBy === 'rates' ? ' in two passes' : ' group by group')}
    </>
  );
}

const AMOUNT_LABELS = {
  quality: 'Constant quality',
  average: 'Average rate of the picture',
  size: 'Size to fill',
} as const;

function AmountField({
  rate,
  codec,
  apply,
  close,
}: {
  readonly rate: RateChoice;
  readonly codec: VideoCodec;
  readonly apply: (rate: RateChoice) => void;
  readonly close: () => void;
}) {
  switch (rate.mode) {
    case 'quality': {
      const { best, worst, hint } = VIDEO[codec].quality;
      return (
        <TypedField
          hasFocus
          onLeave={close}
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
      return (
        <TypedField
          hasFocus
          onLeave={close}
          label="Rate"
          unit="kb/s"
          value={rate.kbps}
          write={String}
          read={readRate(...PICTURE_KBPS_RANGE)}
          onChange={(kbps) => apply({ ...rate, kbps })}
          hint="Of the picture alone; sound comes on top."
        />
      );
    case 'size':
      return (
        <TypedField
          hasFocus
          onLeave={close}
          label="Whole file, at most"
          value={rate.bytes}
          write={writeSize}
          read={readSizeField}
          onChange={(bytes) => apply({ ...rate, bytes })}
          hint={`MB are powers of ten; MiB are taken too. ${formatBytes(rate.bytes)} is ${(rate.bytes / 2 ** 20).toFixed(2)} MiB.`}
        />
      );
  }
}

function readSizeField(text: string): { value: number } | { fault: string } {
  const value = parseSize(text);
  return value !== null && value >= 1 ? { value } : { fault: 'Type a size such as 48 MB, 1.2 GB or 700 MiB.' };
}

/** A size near the starting rate, in a round number of megabytes. */
function startingCap(durationSeconds: number): number {
  const megabytes = (durationSeconds * STARTING_KBPS) / 8000;
  return megabytes < 10 ? Math.max(1, Math.round(megabytes)) * 1e6 : Math.round(megabytes / 5) * 5e6;
}
