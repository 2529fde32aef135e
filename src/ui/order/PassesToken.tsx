import type { RateChoice } from '../../core/recipe/recipe.ts';
import { describeRate } from '../../core/recipe/describeRecipe.ts';
import { RATED, type RatedCodec } from '../../core/video/codecs.ts';
import { Choices } from './Choices.tsx';
import { Token } from './Token.tsx';

type PassedRate = Extract<RateChoice, { readonly passes: 1 | 2 }>;

interface Props {
  readonly rate: PassedRate;
  readonly codec: RatedCodec;
  readonly apply: (rate: RateChoice) => void;
  readonly problem: string | undefined;
}

/** In how many passes a rate is met. */
export function PassesToken({ rate, codec, apply, problem }: Props) {
  const { averagePasses, passFault } = RATED[codec];
  const missing = (passes: 1 | 2) => (averagePasses.includes(passes) ? undefined : passFault);
  return (
    <>
      {' in '}
      <Token label="Passes" text={describeRate(rate).passes ?? ''} problem={problem}>
        {(close) => (
          <Choices
            label="Passes"
            value={String(rate.passes)}
            choices={[
              {
                value: '2',
                label: 'Two passes',
                hint: 'Looks ahead first; spends bits where they are needed.',
                missing: missing(2),
              },
              { value: '1', label: 'One pass', hint: 'Half the time; misses the rate by more.', missing: missing(1) },
            ]}
            onChange={(passes) => {
              apply({ ...rate, passes: passes === '2' ? 2 : 1 });
              close();
            }}
          />
        )}
      </Token>
    </>
  );
}
