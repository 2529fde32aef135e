import { array, boolean, mixed, string, type Schema } from 'yup';
import type { Brief } from '../core/brief/brief.ts';
import type { Recipe } from '../core/recipe/recipe.ts';
import type { ShelfItem } from '../core/shelf/shelf.ts';
import { briefSchema } from './brief.ts';
import { recipeSchema } from './recipe.ts';
import { fault, strictObject } from './strictObject.ts';

/** A saved recipe. */
export interface RecipeItem extends ShelfItem {
  readonly recipe: Recipe;
}

/** Several recipes as one. */
export interface BundleItem extends ShelfItem {
  /** Ids of recipes, in their order. */
  readonly recipeIds: readonly string[];
}

/** What a receiver asks for. */
export interface BriefItem extends ShelfItem {
  readonly brief: Brief;
}

const MOST_TAGS = 20;
const MOST_OF_A_BUNDLE = 20;

const name = string().trim().min(1, fault('a name')).max(200, fault('at most 200 characters'));
const common = {
  notes: string().max(2000, fault('at most 2,000 characters')),
  tags: array(string().required().min(1, fault('a word')).max(60, fault('at most 60 characters'))).max(
    MOST_TAGS,
    fault(`at most ${MOST_TAGS} tags`),
  ),
  starred: boolean(),
};
const fresh = {
  name: name.required(fault('a name')),
  notes: common.notes.default(''),
  tags: common.tags.default([]),
  starred: common.starred.default(false),
};
const changed = {
  name: name.optional(),
  notes: common.notes.optional(),
  tags: common.tags.optional(),
  starred: common.starred.optional(),
  /** Put before this one; null puts it behind all. */
  before: string().max(64, fault('an id')).nullable().optional(),
  /** Brings a deleted one back. */
  restored: boolean().oneOf([true], fault('true')).optional(),
};

const recipeIds = array(string().required().max(64, fault('the id of a recipe')))
  .min(1, fault('at least one recipe'))
  .max(MOST_OF_A_BUNDLE, fault(`at most ${MOST_OF_A_BUNDLE} recipes`));

/** How each kind is put on the shelf, and changed there. */
export const newRecipeSchema = strictObject({ ...fresh, recipe: recipeSchema }).required();
export const newBundleSchema = strictObject({
  ...fresh,
  recipeIds: recipeIds.required(fault('the ids of recipes')),
}).required();
export const newBriefSchema = strictObject({ ...fresh, brief: briefSchema }).required();

/** Where it is given, it is checked like a fresh one. */
const given = <Value extends object>(schema: Schema<Value>) =>
  mixed<Value>().when(([value]: unknown[], open) =>
    value === undefined ? open.optional() : (schema as unknown as typeof open),
  );

export const recipeChangeSchema = strictObject({ ...changed, recipe: given(recipeSchema) }).required();
export const bundleChangeSchema = strictObject({ ...changed, recipeIds: recipeIds.optional() }).required();
export const briefChangeSchema = strictObject({ ...changed, brief: given(briefSchema) }).required();

/** What may be changed of an item on the shelf, beside what it holds. */
export interface ShelfChange {
  readonly before?: string | null | undefined;
  readonly restored?: boolean | undefined;
}

/** Recipes in one file: `linstock.recipes/1`. */
export const recipeFileSchema = strictObject({
  format: string().required().oneOf(['linstock.recipes/1'], fault('the format “linstock.recipes/1”')),
  recipes: array(
    strictObject({ notes: fresh.notes, tags: fresh.tags, starred: fresh.starred, recipe: recipeSchema }).required(),
  )
    .min(1, fault('at least one recipe'))
    .max(500, fault('at most 500 recipes'))
    .required(fault('a list of recipes')),
}).required();
