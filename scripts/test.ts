/** Runs every check and ends with a plain line of counts: types, lint, architecture, unit to API tests, browser tests. */
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';

interface Counts {
  passed: number;
  failed: number;
  skipped: number;
}

const RESULTS = 'test-results';
const total: Counts = { passed: 0, failed: 0, skipped: 0 };

const took: string[] = [];

function run(name: string, command: readonly string[]): boolean {
  console.log(`\n=== ${name}`);
  const [file = '', ...args] = command;
  const began = performance.now();
  const { status } = spawnSync(file, args, { stdio: 'inherit' });
  note(name, began);
  return status === 0;
}

/** Checks without tests of their own, side by side, since each keeps to one core; each counts as one. */
async function checkAll(checks: readonly (readonly [name: string, ...command: string[]])[]): Promise<void> {
  const results = await Promise.all(checks.map(([name, ...command]) => check(name, command)));
  for (const { name, isGood, said } of results) {
    console.log(`\n=== ${name}\n${said}`);
    if (isGood) total.passed += 1;
    else total.failed += 1;
  }
}

async function check(
  name: string,
  [file = '', ...args]: readonly string[],
): Promise<{ name: string; isGood: boolean; said: string }> {
  const began = performance.now();
  const child = spawn(file, args, { stdio: ['ignore', 'pipe', 'pipe'] });
  let said = '';
  for (const stream of [child.stdout, child.stderr]) {
    stream.setEncoding('utf8').on('data', (text: string) => (said += text));
  }
  const isGood = await new Promise<boolean>((resolve) => {
    child.once('error', () => resolve(false));
    child.once('close', (status) => resolve(status === 0));
  });
  note(name, began);
  return { name, isGood, said };
}

function note(name: string, began: number): void {
  took.push(`${((performance.now() - began) / 1000).toFixed(0).padStart(5)} s  ${name}`);
}

/** A runner that ended badly without a count of its failures is one failure. */
function count(isGood: boolean, read: () => Counts): void {
  let counts: Counts = { passed: 0, failed: 0, skipped: 0 };
  try {
    counts = read();
  } catch {
    isGood = false;
  }
  total.passed += counts.passed;
  total.skipped += counts.skipped;
  total.failed += isGood ? counts.failed : Math.max(1, counts.failed);
}

function readJson<Value>(file: string): Value {
  return JSON.parse(readFileSync(`${RESULTS}/${file}`, 'utf8')) as Value;
}

rmSync(RESULTS, { recursive: true, force: true });
mkdirSync(RESULTS);

await checkAll([
  ['Types', 'npx', 'tsc', '--noEmit'],
  ['Lint', 'npx', 'eslint', '.', '--max-warnings', '0'],
  ['Format', 'npx', 'prettier', '--check', '--log-level', 'warn', '.'],
  ['Architecture: layers', 'npx', 'depcruise', 'src', '--config', '.dependency-cruiser.cjs'],
  ['Architecture: nothing unused', 'npx', 'knip', '--no-progress'],
]);

const vitest = run('Unit, reference, engine, store and API tests', [
  'npx',
  'vitest',
  'run',
  '--reporter=default',
  '--reporter=json',
  `--outputFile=${RESULTS}/vitest.json`,
]);
count(vitest, () => {
  const found = readJson<{
    numPassedTests: number;
    numFailedTests: number;
    numPendingTests: number;
    numTodoTests: number;
  }>('vitest.json');
  return {
    passed: found.numPassedTests,
    failed: found.numFailedTests,
    skipped: found.numPendingTests + found.numTodoTests,
  };
});

const browser = run('Browser tests', ['npx', 'playwright', 'test']);
count(browser, () => {
  const { stats } = readJson<{ stats: { expected: number; unexpected: number; flaky: number; skipped: number } }>(
    'browser.json',
  );
  // One that passes only at a second try has failed.
  return { passed: stats.expected, failed: stats.unexpected + stats.flaky, skipped: stats.skipped };
});

console.log(`\n${took.join('\n')}`);
console.log(`\n${total.passed} passed, ${total.failed} failed, ${total.skipped} skipped`);
process.exit(total.failed === 0 ? 0 : 1);
