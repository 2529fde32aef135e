import { ADJUST_RANGE, adjusts, UNADJUSTED, type Adjustment } from '../../core/picture/adjust.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { writeSigned } from '../../core/text.ts';
import { Choices } from './Choices.tsx';
import { readDecimal, readWhole, TypedField } from './TypedField.tsx';

interface Props {
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
}

/** How much noise is taken out, in hundredths, in words. */
const STRENGTHS = [
  { value: '0', label: 'Left in' },
  { value: '25', label: 'A little out', hint: 'Fine detail stays' },
  { value: '50', label: 'Clearly less', hint: 'Of noisy cameras and old film' },
  { value: '100', label: 'As much as goes', hint: 'Fine detail goes with it' },
] as const;

const FIELDS: readonly { readonly key: keyof Adjustment; readonly label: string; readonly hint?: string }[] = [
  { key: 'brightness', label: 'Brightness', hint: 'Added; 0 leaves it, 1 is the way from black to white.' },
  { key: 'contrast', label: 'Contrast', hint: 'Times; here and below, 1 leaves it.' },
  { key: 'saturation', label: 'Saturation' },
  { key: 'gamma', label: 'Gamma', hint: 'Above 1 what lies between black and white is lighter.' },
];

/** What is done to a picture's noise, light and colour. */
export function CorrectionSection({ recipe, change }: Props) {
  const { picture } = recipe;
  const set = (some: Partial<Recipe['picture']>) => change({ ...recipe, picture: { ...picture, ...some } });
  const adjust = picture.adjust ?? UNADJUSTED;
  const percent = Math.round(picture.denoise * 100);
  return (
    <>
      <section>
        <h3 className="text-quiet text-sm">Picture: noise and grain</h3>
        <Choices
          label="Noise and grain"
          value={STRENGTHS.find(({ value }) => Number(value) === percent)?.value ?? null}
          choices={STRENGTHS}
          onChange={(value) => set({ denoise: Number(value) / 100 })}
        />
        <TypedField
          label="Taken out"
          unit="%"
          value={percent}
          write={String}
          read={readWhole(0, 100, 'a share')}
          onChange={(value) => set({ denoise: value / 100 })}
          hint="Less noise takes fewer bytes; results are compared with the master as it is."
        />
      </section>
      <section>
        <h3 className="text-quiet text-sm">Picture: light and colour</h3>
        {FIELDS.map(({ key, label, hint }) => (
          <TypedField
            key={key}
            label={label}
            value={adjust[key]}
            write={key === 'brightness' ? writeSigned : String}
            read={readDecimal(...ADJUST_RANGE[key], 100, 'a number')}
            onChange={(value) => {
              const wanted = { ...adjust, [key]: value };
              set({ adjust: adjusts(wanted) ? wanted : null });
            }}
            {...(hint ? { hint } : {})}
          />
        ))}
      </section>
    </>
  );
}
