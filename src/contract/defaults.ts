import { array, string, type InferType } from 'yup';
import { fault, strictObject } from './strictObject.ts';

const recipeId = string().max(64, fault('the id of a recipe')).nullable().default(null);

const absolute = string()
  .max(4096, fault('a path of at most 4,096 characters'))
  .matches(/^\//, fault('an absolute path, beginning with /'));

/** What orders begin with here; null is what ships. Some media folders may have it otherwise, and their renditions go elsewhere. */
export const defaultsSchema = strictObject({
  recipeId,
  folders: array(
    strictObject({
      folder: absolute.required(fault('a media folder')),
      recipeId,
      output: absolute.nullable().default(null),
    }).required(fault('what holds for a folder')),
  )
    .max(50, fault('at most 50 folders'))
    .default([]),
}).required(fault('what orders begin with'));

export type Defaults = InferType<typeof defaultsSchema>;
