import type { ProgrammeView } from '../../contract/views.ts';
import { sayCaptions, sayPicture } from '../../core/recipe/describeRecipe.ts';
import { drawnCaptions } from '../../core/plan/planCaptions.ts';
import { nameFile } from '../../core/recipe/changeRecipe.ts';
import type { PlanProblem } from '../../core/plan/planProblem.ts';
import { encodedVideo, isCopied, ratedVideo, renditionSize, type Recipe } from '../../core/recipe/recipe.ts';
import { CodecToken } from './CodecToken.tsx';
import { ContainerToken } from './ContainerToken.tsx';
import { FlavourToken } from './FlavourToken.tsx';
import { FrameRateToken } from './FrameRateToken.tsx';
import { FrameSizeToken } from './FrameSizeToken.tsx';
import { RateTokens } from './RateTokens.tsx';
import { SoundTokens } from './SoundTokens.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
  readonly problems: readonly PlanProblem[];
}

/** A rendition as one sentence; each underlined value is a control that opens in place. */
export function OrderLine({ programme, recipe, change, problems }: Props) {
  const problemOf = (field: string) => problems.find((problem) => problem.field === field)?.message;
  const part = { programme, recipe, change, problemOf };
  const size = renditionSize(programme, recipe);
  const { pixelAspect } = recipe.picture;
  return (
    <p className="max-w-[60rem] text-xl leading-9" data-testid="order-line">
      {nameFile(recipe).split(' ')[0]} <ContainerToken {...part} /> {encodedVideo(recipe) ? 'in ' : 'of '}
      <CodecToken {...part} />
      <FlavourToken {...part} />
      {encodedVideo(recipe) && size && (
        <>
          {sayPicture(recipe.picture)}
          {drawnCaptions(programme, recipe) !== null && sayCaptions(recipe)}, at{' '}
          <FrameSizeToken {...part} size={size} />
          {pixelAspect === 'source' && ' in the source’s pixels'} and <FrameRateToken {...part} />
          {ratedVideo(recipe) && (
            <>
              , <RateTokens {...part} />
            </>
          )}
        </>
      )}
      {isCopied(recipe.video) && ', copied as it is'}, with <SoundTokens {...part} />.
    </p>
  );
}
