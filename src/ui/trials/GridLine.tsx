import type { TrialPlan } from '../../contract/trial.ts';
import type { ProgrammeView } from '../../contract/views.ts';
import { ratedVideo, renditionSize, type Recipe } from '../../core/recipe/recipe.ts';
import type { FrameSize } from '../../core/geometry/frameSize.ts';
import { otherEffort, sizesDown, spread, TRIED_SECONDS, type GridCurve } from '../../core/scale/grid.ts';
import type { Effort } from '../../core/video/definition.ts';
import { RATED, RATED_CODECS, VIDEO } from '../../core/video/codecs.ts';
import { useSystem } from '../hooks/queries.ts';
import { Button } from '../kit/Button.tsx';
import { Token } from '../order/Token.tsx';
import { formatSeconds, formatWait } from '../kit/format.ts';

interface Props {
  readonly programme: ProgrammeView;
  readonly recipe: Recipe;
  readonly plan: TrialPlan;
  readonly share: number;
  readonly onShare: (share: number) => void;
  readonly onGrid: (grid: readonly GridCurve[] | null) => void;
  readonly isUnderway: boolean;
  readonly onAsk: () => void;
}

const SHARES = [0.05, 0.1, 0.2, 0.5] as const;

/** What would be tried, as a sentence whose values open in place, and the key that starts it. */
export function GridLine({ programme, recipe, plan, share, onShare, onGrid, isUnderway, onAsk }: Props) {
  const { data: system } = useSystem();
  const codecs = [...new Set(plan.grid.map(({ codec }) => codec))];
  const sizes = [...new Set(plan.grid.map(nameSize))];
  const own = renditionSize(programme, recipe);
  const offeredSizes = own ? sizesDown(programme, recipe, own) : [];
  const offeredCodecs = RATED_CODECS.filter(
    (codec) => RATED[codec].containers.includes(recipe.container) && (system?.engine.encoders.includes(codec) ?? true),
  );
  const video = ratedVideo(recipe);
  const more = video && otherEffort(video.effort);
  const triesMore = plan.grid.some(({ effort }) => effort !== undefined);
  const put = (nextCodecs: readonly string[], nextSizes: readonly string[], withMore = triesMore) => {
    const taken = offeredCodecs.filter((codec) => nextCodecs.includes(codec));
    const chosen = offeredSizes.filter((size) => nextSizes.includes(nameSize(size)));
    if (taken.length === 0 || chosen.length === 0) return;
    const curves = taken.flatMap((codec) => chosen.map((size) => ({ codec, ...size, qualities: spread(codec) })));
    const [first] = curves;
    onGrid(withMore && more && first ? [...curves, { ...first, effort: more }] : curves);
  };
  return (
    <div className="flex max-w-[60rem] flex-wrap items-baseline justify-between gap-x-6 gap-y-2">
      <p className="max-w-[44rem] leading-8">
        <span className="figure">{plan.points}</span> settings, in{' '}
        <Token label="Codecs that are tried" text={codecs.map((codec) => VIDEO[codec].name).join(' and ')}>
          {() => (
            <Choices
              options={offeredCodecs.map((codec) => ({ key: codec, label: VIDEO[codec].name }))}
              chosen={codecs}
              onChange={(next) => put(next, sizes)}
            />
          )}
        </Token>{' '}
        at{' '}
        <Token label="Frame sizes that are tried" text={sizes.join(', ')}>
          {() => (
            <Choices
              options={offeredSizes.map((size) => ({ key: nameSize(size), label: nameSize(size) }))}
              chosen={sizes}
              onChange={(next) => put(codecs, next)}
            />
          )}
        </Token>
        {more && (
          <>
            , <EffortToken effort={more} isTried={triesMore} onChange={(isTried) => put(codecs, sizes, isTried)} />
          </>
        )}
        , on <ShareToken seconds={plan.excerptSeconds} share={share} onShare={onShare} /> of excerpts.{' '}
        <span className="text-quiet">
          {plan.workSeconds === null
            ? 'How long that takes is known once something like it was encoded here.'
            : `Takes about ${formatWait(plan.workSeconds)}.`}
        </span>
      </p>
      <Button look="main" onClick={onAsk} disabled={plan.points === 0}>
        {isUnderway ? 'Try this instead' : 'Try it'}
      </Button>
    </div>
  );
}

interface ShareTokenProps extends Pick<Props, 'share' | 'onShare'> {
  /** What the share comes to. */
  readonly seconds: number;
}

function ShareToken({ seconds, share, onShare }: ShareTokenProps) {
  return (
    <Token label="Share of the frames" text={formatSeconds(seconds)}>
      {(close) => (
        <div className="grid gap-1">
          {SHARES.map((one) => (
            <label key={one} className="flex items-center gap-2">
              <input
                type="radio"
                name="trial-share"
                checked={share === one}
                onChange={() => {
                  onShare(one);
                  close();
                }}
              />
              <span className="figure">{one * 100}</span> % of the frames
            </label>
          ))}
          <p className="text-quiet text-sm">
            At least {TRIED_SECONDS[0]} s and at most {TRIED_SECONDS[1]} s, in whole groups of pictures.
          </p>
        </div>
      )}
    </Token>
  );
}

interface EffortTokenProps {
  readonly effort: Effort;
  readonly isTried: boolean;
  readonly onChange: (isTried: boolean) => void;
}

function EffortToken({ effort, isTried, onChange }: EffortTokenProps) {
  return (
    <Token label="Another effort" text={isTried ? `and once more, ${effort}` : 'at its effort'}>
      {(close) => (
        <label className="flex max-w-72 items-baseline gap-2">
          <input
            type="checkbox"
            checked={isTried}
            onChange={() => {
              onChange(!isTried);
              close();
            }}
          />
          The first of them once more, {effort}: what that saves, and what it takes
        </label>
      )}
    </Token>
  );
}

function nameSize({ width, height }: FrameSize): string {
  return `${width} × ${height}`;
}

interface ChoicesProps {
  readonly options: readonly { readonly key: string; readonly label: string }[];
  readonly chosen: readonly string[];
  readonly onChange: (keys: readonly string[]) => void;
}

function Choices({ options, chosen, onChange }: ChoicesProps) {
  return (
    <div className="grid gap-1">
      {options.map(({ key, label }) => (
        <label key={key} className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={chosen.includes(key)}
            onChange={() => onChange(chosen.includes(key) ? chosen.filter((one) => one !== key) : [...chosen, key])}
          />
          {label}
        </label>
      ))}
    </div>
  );
}
