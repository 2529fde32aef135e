/** Runs every check and ends with a plain line of counts: types, lint, architecture, unit to API tests, browser tests. */
import { spawnSync } from 'node:child_process';
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
  took.push(`${((performance.now() - began) / 1000).toFixed(0).padStart(5)} s  ${name}`);
  return status === 0;
}

/** A check without tests of its own counts as one. */
function check(name: string, command: readonly string[]): void {
  if (run(name, command)) total.passed += 1;
  else total.failed += 1;
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

check('Types', ['npx', 'tsc', '--noEmit']);
check('Lint', ['npx', 'eslint', '.', '--max-warnings', '0']);
check('Format', ['npx', 'prettier', '--check', '--log-level', 'warn', '.']);
check('Architecture: layers', ['npx', 'depcruise', 'src', '--config', '.dependency-cruiser.cjs']);
check('Architecture: nothing unused', ['npx', 'knip', '--no-progress']);

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
