import type { EncodePlan } from '../plan/encodePlan.ts';
import type { Found } from '../plan/planRequest.ts';
import type { ProgrammeFacts } from '../programme/facts.ts';
import type { Recipe } from '../recipe/recipe.ts';
import type { Sounding } from '../sounding/sounding.ts';
import type { Advisory } from './advisory.ts';

/** What settings are judged with. */
export interface Settings {
  readonly facts: ProgrammeFacts;
  readonly recipe: Recipe;
  readonly plan: Omit<EncodePlan, 'version' | 'advisories'>;
  readonly sounding: Sounding | null;
  readonly found: Found | null;
}

/** What is told of one setting; null where there is nothing to tell. */
export type AdviseOnSetting = (settings: Settings) => Advisory | null;
