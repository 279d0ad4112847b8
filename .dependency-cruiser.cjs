// Who may import whom. The rules are explained in docs/architecture.md.
const outside = (from, allowed, extra = []) => ({
  name: `${from}-imports`,
  severity: 'error',
  from: { path: `^src/${from}/`, pathNot: '\\.test\\.tsx?$' },
  to: { path: '^(src|demo|tests)/', pathNot: [...allowed.map((room) => `^src/${room}/`), ...extra] },
});

module.exports = {
  forbidden: [
    outside('core', ['core']),
    outside('ports', ['ports', 'core']),
    outside('adapters', ['adapters', 'ports', 'core']),
    outside('sim', ['sim']),
    {
      name: 'server-imports',
      severity: 'error',
      from: { path: '^src/server/', pathNot: ['\\.test\\.ts$', '^src/server/context\\.ts$'] },
      to: { path: '^(src|demo|tests)/', pathNot: ['^src/(server|ports|core)/'] },
    },
    outside('bench', ['bench', 'core']),
    outside('ui', ['ui'], ['^src/core/topics\\.ts$']),
    {
      name: 'screens-imports',
      severity: 'error',
      from: { path: '^src/screens/', pathNot: ['/load\\.ts$', '\\.test\\.tsx?$'] },
      to: { path: '^(src|demo|tests)/', pathNot: ['^src/(screens|ui|bench|core)/'] },
    },
    {
      name: 'screens-load-imports',
      severity: 'error',
      from: { path: '^src/screens/.*/load\\.ts$' },
      to: { path: '^(src|demo|tests)/', pathNot: ['^src/(screens|server|core|ports)/'] },
    },
    {
      name: 'nothing-imports-app',
      severity: 'error',
      from: { pathNot: '^src/app/' },
      to: { path: '^src/app/' },
    },
    {
      name: 'core-is-pure',
      comment: 'core does no IO: no Node module, no interface, no database',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-packages',
      comment: 'core may use only packages that compute',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: {
        dependencyTypes: ['npm', 'npm-dev'],
        pathNot:
          'node_modules/(rfc6902|canonicalize|fractional-indexing|@noble/hashes|saxes|culori|minisearch|harfbuzzjs|bidi-js|linebreak|fflate|@types)',
      },
    },
    {
      name: 'no-circular',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    {
      name: 'not-to-test',
      severity: 'error',
      from: { pathNot: '\\.test\\.tsx?$|^tests/' },
      to: { path: '\\.test\\.tsx?$|^tests/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'require', 'node', 'default'] },
  },
};
