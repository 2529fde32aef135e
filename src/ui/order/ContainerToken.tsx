import { CONTAINER } from '../../core/container/containers.ts';
import { CONTAINERS } from '../../core/container/names.ts';
import { withContainer } from '../../core/recipe/changeRecipe.ts';
import { Choices } from './Choices.tsx';
import type { OrderPartProps } from './orderPart.ts';
import { Token } from './Token.tsx';

/** What kind of file it is; codecs that do not go in it give way. */
export function ContainerToken({ recipe, change, problemOf }: OrderPartProps) {
  return (
    <Token label="Container" text={CONTAINER[recipe.container].name} problem={problemOf('container')}>
      {(close) => (
        <Choices
          label="Container"
          value={recipe.container}
          choices={CONTAINERS.map((value) => {
            const { name: label, hint } = CONTAINER[value];
            return { value, label, hint };
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
