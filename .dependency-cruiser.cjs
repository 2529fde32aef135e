/** One-way layers: who may import whom. */
const layer = (name, allowed) => ({
  name: `${name}-imports`,
  severity: 'error',
  from: { path: `^src/${name}/`, pathNot: '\\.test\\.ts$' },
  to: { path: '^src/', pathNot: `^src/(${[name, ...allowed].join('|')})/` },
});

module.exports = {
  forbidden: [
    layer('core', []),
    layer('contract', ['core']),
    layer('engine', ['core']),
    layer('store', []),
    layer('server', ['engine', 'store', 'contract', 'core']),
    layer('ui', ['contract', 'core']),
    layer('app', ['server', 'contract', 'ui']),
    layer('pages', ['server']),
    layer('demo', ['server', 'engine', 'contract', 'core']),
    { name: 'no-cycles', severity: 'error', from: { path: '^src/' }, to: { circular: true } },
    {
      name: 'core-is-pure',
      severity: 'error',
      comment: 'It runs in browser, worker and server alike.',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: { pathNot: '^src/core/' },
    },
    {
      name: 'arguments-and-parsing-are-pure',
      severity: 'error',
      from: { path: '^src/engine/(arguments|parsing)/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core', 'npm'] },
    },
    {
      name: 'one-spawn',
      severity: 'error',
      comment: 'Child processes are started in one place.',
      from: { path: '^src/', pathNot: '^src/engine/process/' },
      to: { path: '(^child_process$|node:child_process|node_modules/execa)' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
