import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { recipeSchema } from '../../src/contract/recipe.ts';
import { parseWith } from '../../src/contract/strictObject.ts';
import { CONTAINERS } from '../../src/core/container/names.ts';
import { plainVideo, RATE_MODES, STARTING_RECIPE } from '../../src/core/recipe/recipe.ts';
import { SOUND, SOUND_CODECS } from '../../src/core/sound/codecs.ts';
import { MASTERS, MASTER_CODECS, RATED, RATED_CODECS, VIDEO, VIDEO_CODECS } from '../../src/core/video/codecs.ts';

const PAGE = readFileSync('docs/recipe-format.md', 'utf8');

/** Cells of every row of the page's tables, by their first. */
const ROWS = new Map(
  PAGE.split('\n')
    .filter((line) => line.startsWith('|'))
    .map((line) => line.split('|').slice(1, -1))
    .map((cells) => cells.map((cell) => cell.trim()))
    .map((cells) => [cells[0]!, cells] as const),
);

/** Keys of an object with every default filled in, as the page writes them. */
function keysOf(value: object, before = ''): string[] {
  return Object.entries(value).flatMap(([key, inner]) => {
    const isSettings =
      typeof inner === 'object' && inner !== null && ['video', 'picture', 'time', 'audio', 'file'].includes(key);
    return [`${before}${key}`, ...(isSettings ? keysOf(inner as object, `${before}${key}.`) : [])];
  });
}

function parsed(recipe: object): object {
  const outcome = parseWith(recipeSchema, recipe);
  if (!outcome.ok) throw new Error(outcome.faults[0].message);
  return outcome.value;
}

describe('the page of the recipe', () => {
  it('lists every key there is, and no other', () => {
    const master = parsed({ container: 'mov', video: { codec: 'prores' }, audio: { codec: 'pcm' } });
    const keys = new Set([...keysOf(parsed(STARTING_RECIPE)), ...keysOf(master)]);
    const told = [...ROWS.keys()].filter((key) => /^`[a-z]+(\.[a-zA-Z]+)?`$/.test(key)).map((key) => key.slice(1, -1));
    // Codecs and the head of the rates have tables of their own; three objects are told by their keys alone.
    const others: readonly string[] = [...VIDEO_CODECS, ...SOUND_CODECS, 'rate'];
    ['picture', 'time', 'file'].forEach((key) => keys.delete(key));
    expect(new Set(told.filter((key) => !others.includes(key)))).toEqual(keys);
  });

  it('reads its example, and tells the defaults', () => {
    const [, example] = /```json\n([^`]*)```/.exec(PAGE)!;
    expect(parsed(JSON.parse(example!) as object)).toMatchObject({ name: 'Web 720' });
    const { video } = parsed({ video: { codec: 'h264', rate: { mode: 'quality', value: 23 } }, audio: null }) as {
      video: Record<string, unknown>;
    };
    for (const [key, value] of Object.entries(video)) {
      if (key === 'codec' || key === 'rate') continue;
      const said = ROWS.get(`\`video.${key}\``)!.at(-1)!.replaceAll('"', '').replaceAll(' ', '');
      expect(said, key).toContain(JSON.stringify(value).replaceAll('"', ''));
    }
  });

  it('names every container', () => {
    for (const container of CONTAINERS) expect(ROWS.get('`container`')![1]).toContain(`"${container}"`);
  });

  it.each(VIDEO_CODECS)('says what goes with %s', (codec) => {
    const [, containers, quality] = ROWS.get(`\`${codec}\``)!;
    expect(containers).toBe(VIDEO[codec].containers.join(', '));
    const rated = RATED_CODECS.find((one) => one === codec);
    expect(quality).toBe(rated ? `${RATED[rated].quality.best} to ${RATED[rated].quality.worst}` : '');
  });

  it.each(SOUND_CODECS)('says what goes with %s', (codec) => {
    const [, containers, stereo, mono] = ROWS.get(`\`${codec}\``)!;
    const { rate } = SOUND[codec];
    expect(containers).toBe(SOUND[codec].containers.join(', '));
    const say = (range: readonly number[]) => range.join(' to ');
    const expected =
      rate.kind === 'asked' ? [say(rate.kbps.stereo), say(rate.kbps.mono)] : ['every sample', 'every sample'];
    expect([stereo, mono]).toEqual(expected);
  });

  it('names every flavour', () => {
    for (const codec of MASTER_CODECS) {
      for (const { key } of MASTERS[codec].flavours) expect(ROWS.get('`video.flavour`')![1]).toContain(`"${key}"`);
    }
  });

  it('shows rates that are taken, of every mode', () => {
    const shown = [...ROWS.keys()].filter((cell) => cell.startsWith('`{"mode"')).map((cell) => cell.slice(1, -1));
    for (const rate of shown) {
      expect(parsed({ video: { codec: 'h264', rate: JSON.parse(rate) as object }, audio: null })).toBeDefined();
    }
    const modes = shown.map((rate) => (JSON.parse(rate) as { mode: string }).mode);
    expect(new Set(modes)).toEqual(new Set(RATE_MODES));
  });

  it('reads what older versions wrote', () => {
    const old = {
      video: { codec: 'h264', rate: { mode: 'quality', value: 23 }, effort: 'fast' },
      audio: { codec: 'aac' },
    };
    expect(parsed(old)).toMatchObject({ video: plainVideo('h264', STARTING_RECIPE.video.rate, 'fast') });
  });
});
