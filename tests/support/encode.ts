import { mkdtempSync } from 'node:fs';
import path from 'node:path';
import { recipeSchema } from '../../src/contract/recipe.ts';
import { parseWith } from '../../src/contract/strictObject.ts';
import { pictureOf, type EncodePlan } from '../../src/core/plan/encodePlan.ts';
import { planRendition } from '../../src/core/plan/planRendition.ts';
import type { Recipe } from '../../src/core/recipe/recipe.ts';
import { SOUND_CODECS } from '../../src/core/sound/codecs.ts';
import { VIDEO_CODECS } from '../../src/core/video/codecs.ts';
import { cutFrames } from '../../src/engine/parsing/packets.ts';
import type { FrameQuality } from '../../src/core/quality/frameQuality.ts';
import type { Portion } from '../../src/core/programme/facts.ts';
import type { Engine } from '../../src/engine/engine.ts';
import { checkResult } from '../../src/server/runner/checkResult.ts';
import { placeDrawn, readDrawn } from '../../src/server/drawn/readDrawn.ts';
import { writeLabels } from '../../src/server/captions/readCaptions.ts';
import type { Encoded } from '../../src/server/runner/encodeJob.ts';
import { encodeRendition } from '../../src/server/runner/encodeRendition.ts';
import { openJournal } from '../../src/server/runner/journal.ts';
import type { Check } from '../../src/contract/views.ts';
import { lookAtFile } from './analyse.ts';

export interface Made extends Encoded {
  readonly plan: EncodePlan;
  readonly checks: readonly Check[];
  /** Of each frame; null without a picture. */
  readonly compared: readonly FrameQuality[] | null;
}

/** A whole rendition by the engine, without server and queue: planned, encoded, checked. */
export async function makeRendition(
  engine: Engine,
  folder: string,
  master: string,
  recipe: object,
  portion: Portion | null = null,
  portionIns: readonly number[] = [],
): Promise<Made> {
  const { facts, clock } = await lookAtFile(master);
  const parsed = parseWith<Recipe>(recipeSchema, recipe);
  if (!parsed.ok) throw new Error(parsed.faults[0].message);
  const outcome = planRendition({
    facts,
    clock,
    recipe: parsed.value,
    portion,
    encoders: [...VIDEO_CODECS, ...SOUND_CODECS],
    hardware: VIDEO_CODECS,
    sounding: null,
    portionIns,
    cuts: portion && facts.video && cutFrames((await engine.inspect(master)).tallies.get(facts.video.index)!),
  });
  if (!outcome.ok) throw new Error(outcome.problems.map(({ message }) => message).join(' '));
  const { plan } = outcome;
  const workingFolder = mkdtempSync(path.join(folder, 'work-'));
  const { signal } = new AbortController();
  const common = { engine, plan, source: master, facts, clock, signal };
  const read = { facts, path: master, source: master };
  const config = { applicationFolder: process.cwd(), mediaFolders: [path.dirname(master)] };
  await placeDrawn(await readDrawn(engine, config, read, plan, signal), workingFolder);
  const encoded = await encodeRendition({
    ...common,
    labels: await writeLabels(engine, read, plan, workingFolder, signal),
    workingFolder,
    temporary: (part) => path.join(workingFolder, `part-${part}`),
    journal: await openJournal(path.join(workingFolder, 'journal.json'), ''),
    hold: null,
    enter: () => () => undefined,
  });
  const picture = pictureOf(plan);
  const options = { workingFolder, signal, onProgress: () => undefined };
  const compared = picture && (await engine.compare(master, [{ picture, file: encoded.file }], options));
  const checks = await checkResult({
    ...common,
    result: encoded.file,
    workingFolder,
    decodedFrames: compared && (compared[0]?.length ?? 0),
    brief: null,
  });
  return { ...encoded, plan, checks, compared: compared?.[0] ?? null };
}
