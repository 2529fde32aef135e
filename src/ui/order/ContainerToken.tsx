import { CONTAINER } from '../../core/container/containers.ts';
import { CONTAINERS } from '../../core/container/names.ts';
import { withContainer } from '../../core/recipe/changeRecipe.ts';
import { Choices } from './Choices.tsx';
import type { OrderPartProps } from './orderPart.ts';
import { Token } from './Token.tsx';

/** What kind of file it is; codecs that do not go in it give way. */
export function ContainerToken({ programme, recipe, change, problemOf }: OrderPartProps) {
  const hasSound = programme.audio.length > 0;
  return (
    <Token isWide label="Container" text={CONTAINER[recipe.container].name} problem={problemOf('container')}>
      {(close) => (
        <Choices
          label="Container"
          value={recipe.container}
          choices={CONTAINERS.map((value) => {
            const { name: label, hint, withPicture } = CONTAINER[value];
            const missing = withPicture || hasSound ? undefined : 'This programme has no sound.';
            return { value, label, hint, missing };
          })}
          onChange={(container) => {
            change(withContainer(recipe, container));
            close();
          }}
        />
      )}
    </Token>
  );
}
