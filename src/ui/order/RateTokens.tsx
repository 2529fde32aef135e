import { ratedVideo, type RateChoice } from '../../core/recipe/recipe.ts';
import { startRate } from '../../core/recipe/changeRecipe.ts';
import { withRate } from '../../core/recipe/withRate.ts';
import { describeRate } from '../../core/recipe/describeRecipe.ts';
import { RATED } from '../../core/video/codecs.ts';
import type { RatedDefinition } from '../../core/video/definition.ts';
import { Choices, type Choice } from './Choices.tsx';
import { HighestField } from './HighestField.tsx';
import type { OrderPartProps } from './orderPart.ts';
import { PassesToken } from './PassesToken.tsx';
import { RateAmount } from './RateAmount.tsx';
import { Token } from './Token.tsx';

/** How the picture's bits are decided: a quality, a rate or a size to fill. */
export function RateTokens({ programme, recipe, change, problemOf }: OrderPartProps) {
  const video = ratedVideo(recipe);
  if (!video) return null;
  const { rate, codec } = video;
  const definition = RATED[codec];
  const apply = (next: RateChoice) => change(withRate(recipe, next));
  const said = describeRate(rate);
  const highestProblem = problemOf('video.rate.maxKbps');
  return (
    <>
      <Token
        isWide
        label="What is held to"
        text={said.mode}
        problem={problemOf('video.rate') ?? problemOf('video.rate.mode')}
      >
        {(close) => (
          <Choices
            label="What is held to"
            value={rate.mode}
            choices={modesOf(definition)}
            onChange={(mode) => {
              if (mode !== rate.mode) apply(startRate(mode, rate, codec, programme.durationSeconds));
              close();
            }}
          />
        )}
      </Token>{' '}
      <Token label={AMOUNT_LABELS[rate.mode]} text={said.amount} problem={problemOf('video.rate.bytes')}>
        {(close) => <RateAmount rate={rate} codec={codec} apply={apply} close={close} />}
      </Token>
      {said.highest && 'maxKbps' in rate && (
        <>
          {rate.mode === 'variable' ? ' and at most ' : ', at most '}
          <Token label="Highest rate" text={said.highest} problem={highestProblem}>
            {(close) => <HighestField rate={rate} apply={apply} close={close} />}
          </Token>
        </>
      )}
      {'passes' in rate && (
        <PassesToken rate={rate} codec={codec} apply={apply} problem={problemOf('video.rate.passes')} />
      )}
      {(rate.mode === 'size' || rate.mode === 'share') && ' group by group'}
    </>
  );
}

const AMOUNT_LABELS: Readonly<Record<RateChoice['mode'], string>> = {
  quality: 'Constant quality',
  average: 'Average rate of the picture',
  variable: 'Average rate of the picture',
  constant: 'Rate of the picture',
  size: 'Size to fill',
  share: 'Share of the source to fill',
};

/** What can be held to, with the reason where it cannot. */
function modesOf({ bufferFault }: RatedDefinition): Choice<RateChoice['mode']>[] {
  const missing = bufferFault === '' ? undefined : bufferFault;
  return [
    {
      value: 'quality',
      label: 'Constant quality',
      hint: 'Looks the same throughout; the size is what it comes to.',
    },
    { value: 'average', label: 'An average rate', hint: 'The size is nearly known; hard parts look worse.' },
    { value: 'size', label: 'A size to fill', hint: 'Never over it, and filled.' },
    { value: 'share', label: 'A share of the source', hint: 'Filled like a size: 50 % is half of the master’s bytes.' },
    {
      value: 'variable',
      label: 'An average and a highest rate',
      hint: 'For lines and players that take no more than so much at once.',
      missing,
    },
    {
      value: 'constant',
      label: 'A constant rate',
      hint: 'For channels that want one; easy parts are padded.',
      missing,
    },
  ];
}
