import { string, type InferType } from 'yup';
import { fault, strictObject } from './strictObject.ts';

/** What orders begin with here; null is what ships. */
export const defaultsSchema = strictObject({
  recipeId: string().max(64, fault('the id of a recipe')).nullable().default(null),
}).required(fault('what orders begin with'));

export type Defaults = InferType<typeof defaultsSchema>;
