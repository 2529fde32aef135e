import { withFlavour } from '../../core/recipe/changeRecipe.ts';
import { encodedVideo, isRatedVideo } from '../../core/recipe/recipe.ts';
import { flavourOf, MASTERS } from '../../core/video/codecs.ts';
import { Choices } from './Choices.tsx';
import type { OrderPartProps } from './orderPart.ts';
import { Token } from './Token.tsx';

/** How strong a codec for masters is; none where there is nothing to choose. */
export function FlavourToken({ recipe, change, problemOf }: OrderPartProps) {
  const video = encodedVideo(recipe);
  if (!video || isRatedVideo(video)) return null;
  const { flavours } = MASTERS[video.codec];
  if (flavours.length < 2) return null;
  return (
    <>
      {' '}
      <Token
        label="Flavour"
        text={flavourOf(video.codec, video.flavour)?.name ?? ''}
        problem={problemOf('video.flavour')}
      >
        {(close) => (
          <Choices
            label="Flavour"
            value={video.flavour}
            choices={flavours.map(({ key: value, name: label, hint }) => ({ value, label, hint }))}
            onChange={(flavour) => {
              change(withFlavour(recipe, video, flavour));
              close();
            }}
          />
        )}
      </Token>
    </>
  );
}
