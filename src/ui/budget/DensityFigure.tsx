import { pictureOf, type EncodePlan } from '../../core/plan/encodePlan.ts';
import { Figure } from './Figure.tsx';

/** From this share of what a picture usually takes it starves, and from that on bytes are spent for nothing much. */
const STARVED = 0.5;
const WASTEFUL = 2;

/** Bits for each pixel, beside what this programme's pictures take at the codec's usual quality. */
export function DensityFigure({ plan }: { readonly plan: EncodePlan }) {
  const out = pictureOf(plan)?.out;
  const { videoRate, neededRate } = plan.budget;
  if (!out || videoRate === null || plan.span.seconds === 0) return null;
  const pixelsPerSecond = (out.size.width * out.size.height * out.frameCount) / plan.span.seconds;
  const write = (rate: number) => (rate / pixelsPerSecond).toPrecision(2);
  return (
    <Figure
      name="Bits a pixel"
      value={write(videoRate)}
      detail={neededRate === undefined ? '' : `${judge(videoRate / neededRate)} usual here: ${write(neededRate)}`}
      testId="density"
    />
  );
}

function judge(share: number): string {
  if (share < STARVED) return 'starved;';
  return share > WASTEFUL ? 'wasteful;' : 'enough;';
}
