import type { ProgrammeView } from '../../contract/views.ts';
import {
  fieldRate,
  FRAME_RATE_RANGE,
  resultRate,
  steadyRate,
  type FrameRateChoice,
} from '../../core/recipe/frameRate.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { nameFrameRate, snapFrameRate } from '../../core/timing/frameRate.ts';
import { parseRational, rational, toNumber, type Rational } from '../../core/timing/rational.ts';
import type { Choice } from './Choices.tsx';
import type { OrderPartProps } from './orderPart.ts';
import { PickToken } from './PickToken.tsx';

/** What receivers allow most often (common practice, no source). */
const USUAL_CEILING = rational(30, 1);

/** Frames a second: the source's own, fewer of them, or another rate. */
export function FrameRateToken({ programme, recipe, change, problemOf }: OrderPartProps) {
  const { frameRate } = recipe.time;
  const apply = (choice: FrameRateChoice) => change({ ...recipe, time: { frameRate: choice } });
  const choices = choicesFor(programme, recipe);
  return (
    <PickToken<string, Rational>
      label="Frame rate"
      text={sayRate(programme, recipe)}
      problem={problemOf('time.frameRate')}
      value={choices.find(({ choice }) => JSON.stringify(choice) === JSON.stringify(frameRate))?.value ?? null}
      choices={choices}
      onPick={(value) => apply(choices.find((one) => one.value === value)?.choice ?? 'source')}
      typed={{
        label: 'Or so many',
        unit: 'fps',
        value: resultRate(programme, recipe) ?? programme.frameRate,
        write: nameFrameRate,
        read: readFrameRate,
        onChange: apply,
        hint: 'Such as 25 or 59.94. Frames are left out or shown again; none is made up.',
      }}
    />
  );
}

function choicesFor(
  programme: ProgrammeView,
  recipe: Recipe,
): (Choice<string> & { readonly choice: FrameRateChoice })[] {
  const { frameRate, video } = programme;
  const fps = (choice: FrameRateChoice) => {
    const rate = resultRate(programme, { ...recipe, time: { frameRate: choice } });
    return `${nameFrameRate(rate ?? frameRate)} fps`;
  };
  const ceiling: FrameRateChoice = { atMost: USUAL_CEILING };
  const steady = steadyRate(programme);
  return [
    {
      value: 'source',
      choice: 'source',
      label: 'The source’s own',
      hint: video?.constantRate === false ? 'Every frame keeps its own time.' : fps('source'),
    },
    ...(recipe.picture.deinterlace && fieldRate(programme)
      ? [
          {
            value: 'fields',
            choice: 'fields' as const,
            label: 'Each field a frame',
            hint: `${fps('fields')}: motion keeps all the steps it had.`,
          },
        ]
      : []),
    { value: 'half', choice: 'half', label: 'Half of it', hint: `${fps('half')}: every second frame.` },
    { value: 'ceiling', choice: ceiling, label: 'At most 30', hint: `Here ${fps(ceiling)}.` },
    ...(video?.constantRate === false
      ? [
          {
            value: 'steady',
            choice: steady,
            label: `A steady ${nameFrameRate(steady)}`,
            hint: 'For players that stutter.',
          },
        ]
      : []),
  ];
}

function sayRate(programme: ProgrammeView, recipe: Recipe): string {
  const rate = resultRate(programme, recipe);
  if (rate) return `${nameFrameRate(rate)} fps`;
  const varies = programme.video?.constantRate === false ? 'varying rate around ' : '';
  return `the source’s ${varies}${nameFrameRate(programme.frameRate)} fps`;
}

/** 59.94 means 60000/1001, as the trade does. */
function readFrameRate(text: string): { value: Rational } | { fault: string } {
  const [least, most] = FRAME_RATE_RANGE;
  const typed = Number(text.trim().replace(',', '.'));
  const rate = parseRational(text) ?? (typed > 0 ? snapFrameRate(typed) : null);
  return rate && toNumber(rate) >= least && toNumber(rate) <= most
    ? { value: rate }
    : { fault: `Type a rate from ${least} to ${most}, such as 25, 29.97 or 30000/1001.` };
}
