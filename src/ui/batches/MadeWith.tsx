import { useShelf } from '../hooks/shelfQueries.ts';
import { Choices } from '../order/Choices.tsx';
import { Token } from '../order/Token.tsx';

/** By what many programmes are made: recipes, a bundle of them, or what a receiver asks for. */
export type Making =
  | { readonly kind: 'recipes'; readonly ids: readonly string[] }
  | { readonly kind: 'bundle'; readonly id: string }
  | { readonly kind: 'brief'; readonly id: string };

interface Props {
  readonly making: Making;
  readonly onChange: (making: Making) => void;
}

const KINDS = { recipes: 'each by the recipe', bundle: 'each by the bundle', brief: 'each bent to the brief' } as const;

/** The sentence of a batch: what is chosen opens in place. */
export function MadeWith({ making, onChange }: Props) {
  const { data: recipes = [] } = useShelf('recipes');
  const { data: bundles = [] } = useShelf('bundles');
  const { data: briefs = [] } = useShelf('briefs');
  const first = {
    recipes: { kind: 'recipes', ids: recipes.slice(0, 1).map(({ id }) => id) },
    bundle: { kind: 'bundle', id: bundles[0]?.id ?? '' },
    brief: { kind: 'brief', id: briefs[0]?.id ?? '' },
  } as const;
  const named = (list: readonly { id: string; name: string }[], id: string) =>
    list.find((one) => one.id === id)?.name ?? '…';
  const text =
    making.kind === 'recipes'
      ? making.ids.map((id) => named(recipes, id)).join(', ') || 'none yet'
      : named(making.kind === 'bundle' ? bundles : briefs, making.id);
  const toggle = (id: string, ids: readonly string[]) =>
    onChange({ kind: 'recipes', ids: ids.includes(id) ? ids.filter((one) => one !== id) : [...ids, id] });
  return (
    <>
      <Token label="Made by" text={KINDS[making.kind]}>
        {(close) => (
          <Choices
            label="Made by"
            value={making.kind}
            choices={[
              { value: 'recipes', label: 'Recipes', hint: 'One file of each programme for each recipe.' },
              { value: 'bundle', label: 'A bundle', hint: 'Several recipes that go together.' },
              { value: 'brief', label: 'A brief', hint: 'What a receiver asks for; each file is checked against it.' },
            ]}
            onChange={(kind) => {
              onChange(first[kind]);
              close();
            }}
          />
        )}
      </Token>{' '}
      <Token isWide label="Which" text={text}>
        {(close) =>
          making.kind === 'recipes' ? (
            <div role="group" aria-label="Recipes" className="columns-2 gap-x-3">
              {recipes.map(({ id, name, notes }) => (
                <label
                  key={id}
                  className="hover:bg-sunk flex break-inside-avoid items-baseline gap-2 rounded px-2 py-1"
                >
                  <input type="checkbox" checked={making.ids.includes(id)} onChange={() => toggle(id, making.ids)} />
                  <span>
                    {name}
                    <span className="text-quiet block text-sm">{notes}</span>
                  </span>
                </label>
              ))}
            </div>
          ) : (
            <Choices
              label="Which"
              value={making.id}
              choices={(making.kind === 'bundle' ? bundles : briefs).map(({ id, name, notes }) => ({
                value: id,
                label: name,
                hint: notes,
              }))}
              onChange={(id) => {
                onChange({ kind: making.kind, id });
                close();
              }}
            />
          )
        }
      </Token>
      .
    </>
  );
}
