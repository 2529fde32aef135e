import { readFileSync } from 'node:fs';
import { Ajv } from 'ajv';
import fc from 'fast-check';
import { parse } from 'csv-parse/sync';
import { describe, expect, it } from 'vitest';
import { briefSchema } from '../../src/contract/brief.ts';
import type { BatchView } from '../../src/contract/batch.ts';
import { recipeSchema } from '../../src/contract/recipe.ts';
import { parseWith } from '../../src/contract/strictObject.ts';
import { STOCK_BRIEFS } from '../../src/core/brief/stockBriefs.ts';
import { STOCK_RECIPES } from '../../src/core/recipe/stockRecipes.ts';
import { writeReport } from '../../src/server/batches/report.ts';

// An independent validator of JSON Schema (draft 7), the package ajv.
const ajv = new Ajv({ allowUnionTypes: true });
const published = (name: string) =>
  ajv.compile(JSON.parse(readFileSync(`docs/schemas/${name}.schema.json`, 'utf8')) as object);
const isRecipe = published('recipe');
const isBrief = published('brief');
const plain = (value: object) => JSON.parse(JSON.stringify(value)) as Record<string, unknown>;

describe('the published schemas', () => {
  it('take every recipe and brief that ships, as they are written', () => {
    for (const { recipe } of STOCK_RECIPES) expect(isRecipe(plain(recipe)), recipe.name).toBe(true);
    for (const { brief } of STOCK_BRIEFS) expect(isBrief(plain(brief)), brief.name).toBe(true);
  });

  it('take what the application takes, and refuse what it refuses', () => {
    const keys = (value: object): string[] => Object.keys(value);
    const odd = fc.constantFrom<unknown>('x', -1, true, null, {}, [], 1e9, 0.5);
    const changed = (list: Record<string, unknown>[]) =>
      fc
        .constantFrom(...list)
        .chain((value) =>
          fc
            .tuple(fc.constantFrom(...keys(value), 'colour'), odd)
            .map(([key, wrong]) => ({ ...value, [key]: wrong }) as Record<string, unknown>),
        );
    const recipes = changed(STOCK_RECIPES.map(({ recipe }) => plain(recipe)));
    fc.assert(
      fc.property(recipes, (recipe) => isRecipe(recipe) === parseWith(recipeSchema, recipe).ok),
      { seed: 13, numRuns: 400 },
    );
    const briefs = changed(STOCK_BRIEFS.map(({ brief }) => plain(brief)));
    fc.assert(
      fc.property(briefs, (brief) => isBrief(brief) === parseWith(briefSchema, brief).ok),
      { seed: 13, numRuns: 400 },
    );
  });
});

describe('the report of a batch', () => {
  it('is read by an independent reader as it was written (RFC 4180, the package csv-parse)', () => {
    const row = {
      ...{ programmeId: 'p', programmeName: 'A "film", long', recipeName: '=Web\n720', sentence: 'H.264, 720' },
      ...{ renditionId: 'r', state: 'done', name: 'a.mp4', path: '/out/a, b.mp4', sourceBytes: 1000, bytes: 250 },
      ...{ expectedBytes: 260, fraction: 1, seconds: 12.5, workSeconds: 3, ssim: 0.98765, hasFile: true },
    } as const;
    const batch = { rows: [row, { ...row, state: 'failed', reason: 'No room', bytes: null }] } as unknown as BatchView;
    const read: Record<string, string>[] = parse(writeReport(batch), { columns: true, record_delimiter: '\r\n' });
    expect(read).toHaveLength(2);
    expect(read[0]).toMatchObject({
      programme: 'A "film", long',
      // What a table would take for a formula is kept from being one.
      recipe: "'=Web\n720",
      file: '/out/a, b.mp4',
      share: '0.2500',
      ssim: '0.98765',
    });
    expect(read[1]).toMatchObject({ state: 'failed', reason: 'No room', bytes: '', share: '' });
  });
});
