import { array, mixed, number, object, string } from 'yup';
import { CONTAINERS } from '../../core/container/names.ts';
import { PASS_NAMES, PLAN_VERSION, type EncodePlan } from '../../core/plan/encodePlan.ts';
import { SOUND_CODECS } from '../../core/sound/codecs.ts';
import { VIDEO_CODECS } from '../../core/video/codecs.ts';
import { parseWith } from '../strictObject.ts';
import { upgradePlan1, type PlanVersion1 } from './planVersion1.ts';
import { upgradePlan2, type PlanVersion2 } from './planVersion2.ts';
import { upgradePlan3, type PlanVersion3 } from './planVersion3.ts';
import { upgradePlan4, type PlanVersion4 } from './planVersion4.ts';
import { StoredUnreadable } from './unreadable.ts';

const size = object({ width: number().required(), height: number().required() }).required();
const rational = object({ num: number().required(), den: number().required().min(1) }).required();
const steps = array(object({ step: string().required() })).required();
const codecs: readonly string[] = [...VIDEO_CODECS, ...SOUND_CODECS];
const work = object({
  kind: string().oneOf(['copy', 'encode', 'master']).required(),
  codec: string().oneOf(codecs).required(),
}).required();

/** What everything that works by a plan relies on. */
const planSchema = object({
  version: number().oneOf([PLAN_VERSION]).required(),
  span: object({
    inFrame: number().required(),
    frameCount: number().required(),
    seconds: number().required(),
  }).required(),
  container: string().oneOf(CONTAINERS).required(),
  passes: array(string().oneOf(PASS_NAMES).required()).required(),
  budget: object({ binds: string().required(), split: object({ audio: number().required() }).required() }).required(),
  advisories: array(object({ code: string().required(), message: string().required() })).required(),
  streams: array(
    mixed().when(([stream]: { kind?: unknown }[], schema) => {
      if (stream?.kind === 'sound') {
        return object({
          from: array(object({ streamIndex: number().required() }).required())
            .min(1)
            .required(),
          do: work,
          chain: steps,
          out: object({ sampleRate: number().required(), samples: number().required() }).required(),
        });
      }
      if (stream?.kind !== 'picture') return schema.test('known-kind', 'a stream of a known kind', () => false);
      return object({
        from: object({
          streamIndex: number().required(),
          inFrame: number().required(),
          frameRate: rational,
        }).required(),
        do: work,
        chain: steps,
        comparedAt: size,
        out: object({ size, frameCount: number().required(), frameRate: rational }).required(),
      });
    }),
  ).required(),
});

/** What upgrading makes of an older plan is checked like everything else. */
function upgrade(stored: unknown): unknown {
  if (typeof stored !== 'object' || stored === null) return stored;
  // Version 1 wrote no version.
  const version = 'version' in stored ? stored.version : 'passes' in stored ? 1 : null;
  switch (version) {
    case 1:
      return upgradePlan4(upgradePlan3(upgradePlan2(upgradePlan1(stored as PlanVersion1))));
    case 2:
      return upgradePlan4(upgradePlan3(upgradePlan2(stored as PlanVersion2)));
    case 3:
      return upgradePlan4(upgradePlan3(stored as PlanVersion3));
    case 4:
      return upgradePlan4(stored as PlanVersion4);
    default:
      return stored;
  }
}

/**
 * A plan as it lies in the database, whatever version wrote it.
 *
 * @throws StoredUnreadable for what is of no known version, or damaged.
 */
export function readPlan(stored: unknown): EncodePlan {
  const plan = upgrade(stored);
  const parsed = parseWith(planSchema, plan);
  if (!parsed.ok) throw new StoredUnreadable('A plan', `${parsed.faults[0].field}: ${parsed.faults[0].message}`);
  // The schema vouches for what code relies on; the rest is as it was written.
  return plan as EncodePlan;
}
