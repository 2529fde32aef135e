import { isEncoded, PLAN_VERSION, type EncodePlan, type StreamPlan } from '../../core/plan/encodePlan.ts';

/** A plan as versions 0.5 to 0.9 stored it: keyframes besides are frames of the programme. */
export type PlanVersion4 = Omit<EncodePlan, 'version'> & { readonly version: 4 };

/** The same plan, with keyframes counted in the result. */
export function upgradePlan4({ streams, ...rest }: PlanVersion4): EncodePlan {
  return { ...rest, version: PLAN_VERSION, streams: streams.map(countInResult) };
}

function countInResult(stream: StreamPlan): StreamPlan {
  if (stream.kind !== 'picture' || !isEncoded(stream) || !stream.do.keyframesAt) return stream;
  const keyframesAt = stream.do.keyframesAt.map((frame) => frame - stream.from.inFrame);
  return { ...stream, do: { ...stream.do, keyframesAt } };
}
