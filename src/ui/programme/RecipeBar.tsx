import { useState } from 'react';
import { toast } from 'sonner';
import type { BriefItem } from '../../contract/shelf.ts';
import { describeBrief } from '../../core/brief/describeBrief.ts';
import { bendToBrief, findUnsuited } from '../../core/brief/bendToBrief.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import { changesOf } from '../../core/recipe/recipeChanges.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { asRecipe, suitRecipe } from '../../core/recipe/suitRecipe.ts';
import { joinWords } from '../../core/text.ts';
import { useShelf, useShelfWork } from '../hooks/shelfQueries.ts';
import { Button } from '../kit/Button.tsx';
import { Choices } from '../order/Choices.tsx';
import { RecipeToken } from '../order/RecipeToken.tsx';
import { Token } from '../order/Token.tsx';

interface Props {
  readonly programme: ProgrammeFacts;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
  /** Of the receiver the order is for. */
  readonly brief: BriefItem | null;
  readonly onBrief: (brief: BriefItem | null, bent: Recipe) => void;
  /** Length of what is ordered. */
  readonly seconds: number;
}

/** Which recipe the order began as and in what it differs, and the receivers it can be bent to. */
export function RecipeBar(props: Props) {
  const { programme, recipe, change, brief } = props;
  const { data: recipes = [] } = useShelf('recipes');
  const { put, change: keep } = useShelfWork('recipes');
  const base = recipes.find(({ name }) => name === recipe.name);
  const changes = base ? changesOf(suitRecipe(base.recipe, programme, recipe.picture), recipe) : [];
  return (
    <div className="text-quiet mb-1 flex flex-wrap items-center gap-x-3 gap-y-1" data-testid="recipe-bar">
      <span>
        By <RecipeToken {...{ programme, recipe, change }} />
        {changes.length > 0 && (
          <span className="text-ink" data-testid="recipe-changes">
            , with {changes.length === 1 ? '1 change' : `${changes.length} changes`}: {joinWords(changes)}
          </span>
        )}
        .
      </span>
      {base && changes.length > 0 && (
        <>
          <Button
            look="quiet"
            className="!px-2 !py-0"
            onClick={() => change(suitRecipe(base.recipe, programme, recipe.picture))}
          >
            Drop them
          </Button>
          {!base.isStock && (
            <Button
              look="quiet"
              className="!px-2 !py-0"
              onClick={() => {
                keep.mutate({ id: base.id, recipe: asRecipe(recipe, programme, base.recipe) });
                toast(`${base.name} is updated; what was queued stays as it was.`);
              }}
            >
              Update the recipe
            </Button>
          )}
        </>
      )}
      <SaveAs
        recipe={recipe}
        taken={recipes.map(({ name }) => name)}
        onSave={(name) => {
          put.mutate({
            name,
            notes: '',
            tags: [],
            starred: false,
            recipe: asRecipe({ ...recipe, name }, programme, base?.recipe),
          });
          change({ ...recipe, name });
          toast(`${name} is saved.`);
        }}
      />
      <span>
        {brief && 'For '}
        <BriefToken {...props} />
        {brief && <BriefStanding {...props} brief={brief} />}
      </span>
    </div>
  );
}

interface SaveProps {
  readonly recipe: Recipe;
  readonly taken: readonly string[];
  readonly onSave: (name: string) => void;
}

function SaveAs({ recipe, taken, onSave }: SaveProps) {
  const [name, setName] = useState('');
  const isTaken = taken.includes(name.trim());
  return (
    <Token label="Save the order" text="save as a recipe">
      {(close) => (
        <form
          className="flex flex-col gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            if (!name.trim() || isTaken) return;
            onSave(name.trim());
            setName('');
            close();
          }}
        >
          <input
            autoFocus
            aria-label="Name of the recipe"
            placeholder={`${recipe.name}, mine`}
            value={name}
            onChange={(event) => setName(event.target.value)}
            className="border-rule bg-paper rounded border px-2 py-1"
          />
          {isTaken && <p className="text-wrong text-sm">There is a recipe of this name; give another.</p>}
          <Button look="main" type="submit" disabled={!name.trim() || isTaken}>
            Save it
          </Button>
        </form>
      )}
    </Token>
  );
}

/** For which receiver the order is: it is bent to what that asks for, and says what it bent and what it could not. */
function BriefToken({ programme, recipe, brief, onBrief }: Props) {
  const { data: briefs = [] } = useShelf('briefs');
  return (
    <Token isWide label="Bend to a brief" text={brief ? brief.name : 'bend to a brief'}>
      {(close) => (
        <Choices
          label="Bend to a brief"
          value={brief?.id ?? null}
          choices={[
            ...briefs.map(({ id, name, notes, brief }) => ({
              value: id,
              label: name,
              hint: notes || describeBrief(brief),
            })),
            ...(brief ? [{ value: NOBODY, label: 'nobody in particular', hint: 'The order stays as it is.' }] : []),
          ]}
          onChange={(id) => {
            const taken = briefs.find((one) => one.id === id);
            if (id === NOBODY) onBrief(null, recipe);
            if (taken) {
              const { recipe: bent, bent: words } = bendToBrief(recipe, taken.brief, programme);
              onBrief(taken, bent);
              toast(`${taken.name}. ${words.length > 0 ? `Bent: ${joinWords(words)}.` : 'Nothing had to be bent.'}`);
            }
            close();
          }}
        />
      )}
    </Token>
  );
}

/** What of the order is not as the receiver asks, with the key that bends it again, and what no bending helps. */
function BriefStanding({ programme, recipe, brief, onBrief, seconds }: Props & { readonly brief: BriefItem }) {
  const { recipe: asked, bent } = bendToBrief(recipe, brief.brief, programme);
  const unsuited = findUnsuited(brief.brief, programme, asked, seconds);
  return (
    <span data-testid="brief-standing" className={bent.length + unsuited.length > 0 ? 'text-ink' : ''}>
      . {bent.length > 0 && `Not as it asks: ${joinWords(bent)}. `}
      {unsuited.join(' ')}
      {bent.length + unsuited.length === 0 && 'The file is checked against it.'}
      {bent.length > 0 && (
        <Button look="quiet" className="!px-2 !py-0" onClick={() => onBrief(brief, asked)}>
          Bend it
        </Button>
      )}
    </span>
  );
}

/** In the place of a brief's id. */
const NOBODY = 'nobody';
