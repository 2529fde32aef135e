import { useState } from 'react';
import { toast } from 'sonner';
import type { RecipeItem } from '../../contract/shelf.ts';
import { describeBrief } from '../../core/brief/describeBrief.ts';
import { bendToBrief, findUnsuited } from '../../core/brief/bendToBrief.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import { describeRecipe } from '../../core/recipe/describeRecipe.ts';
import { changesOf } from '../../core/recipe/recipeChanges.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { joinWords } from '../../core/text.ts';
import { useShelf, useShelfWork } from '../hooks/shelfQueries.ts';
import { Button } from '../kit/Button.tsx';
import { Choices } from '../order/Choices.tsx';
import { Token } from '../order/Token.tsx';

interface Props {
  readonly programme: ProgrammeFacts;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
}

/** Which recipe the order began as and in what it differs, and the receivers it can be bent to. */
export function RecipeBar({ programme, recipe, change }: Props) {
  const { data: recipes = [] } = useShelf('recipes');
  const { put, change: keep } = useShelfWork('recipes');
  const base = recipes.find(({ name }) => name === recipe.name);
  const changes = base ? changesOf(base.recipe, recipe) : [];
  return (
    <div className="text-quiet mb-1 flex flex-wrap items-center gap-x-3 gap-y-1" data-testid="recipe-bar">
      <span>
        By{' '}
        <Token isWide label="Recipe" text={base?.name ?? 'no saved recipe'}>
          {(close) => (
            <Choices
              label="Recipe"
              value={base?.id ?? null}
              choices={recipes.map((one) => ({ value: one.id, label: one.name, hint: hintOf(one) }))}
              onChange={(id) => {
                const taken = recipes.find((one) => one.id === id);
                if (taken) change(asOrder(taken.recipe, recipe));
                close();
              }}
            />
          )}
        </Token>
        {changes.length > 0 && (
          <span className="text-ink" data-testid="recipe-changes">
            , with {changes.length === 1 ? '1 change' : `${changes.length} changes`}: {joinWords(changes)}
          </span>
        )}
        .
      </span>
      {base && changes.length > 0 && (
        <>
          <Button look="quiet" className="!px-2 !py-0" onClick={() => change(asOrder(base.recipe, recipe))}>
            Drop them
          </Button>
          {!base.isStock && (
            <Button
              look="quiet"
              className="!px-2 !py-0"
              onClick={() => {
                keep.mutate({ id: base.id, recipe });
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
          put.mutate({ name, notes: '', tags: [], starred: false, recipe: { ...recipe, name } });
          change({ ...recipe, name });
          toast(`${name} is saved.`);
        }}
      />
      <BriefToken programme={programme} recipe={recipe} change={change} />
    </div>
  );
}

function hintOf({ notes, recipe }: RecipeItem): string {
  return notes || describeRecipe(recipe, null);
}

/** What belongs to the programme and not to the recipe stays: bars that are cut off, fields that are taken apart. */
function asOrder(taken: Recipe, now: Recipe): Recipe {
  const { crop, deinterlace } = now.picture;
  const { picture } = taken;
  return {
    ...taken,
    picture: { ...picture, crop: picture.crop ?? crop, deinterlace: picture.deinterlace ?? deinterlace },
  };
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

/** Bends the order to what a receiver asks for, and tells what it bent and what it could not. */
function BriefToken({ programme, recipe, change }: Props) {
  const { data: briefs = [] } = useShelf('briefs');
  return (
    <Token isWide label="Bend to a brief" text="bend to a brief">
      {(close) => (
        <Choices
          label="Bend to a brief"
          value={null}
          choices={briefs.map(({ id, name, notes, brief }) => ({
            value: id,
            label: name,
            hint: notes || describeBrief(brief),
          }))}
          onChange={(id) => {
            const taken = briefs.find((one) => one.id === id);
            if (taken) {
              const { recipe: bent, bent: words } = bendToBrief(recipe, taken.brief, programme);
              change(bent);
              const unsuited = findUnsuited(taken.brief, programme, bent, programme.durationSeconds);
              const said = words.length > 0 ? `Bent: ${joinWords(words)}.` : 'Nothing had to be bent.';
              toast(`${taken.name}. ${said} ${unsuited.join(' ')}`, { duration: unsuited.length > 0 ? 12_000 : 5000 });
            }
            close();
          }}
        />
      )}
    </Token>
  );
}
