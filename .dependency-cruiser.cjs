/** Arrows run one way: core <- contract (types) <- server, web. */
module.exports = {
  forbidden: [
    {
      name: 'core-stands-alone',
      severity: 'error',
      from: { path: '^core/', pathNot: '(\\.test\\.ts$|^core/testing/)' },
      to: { path: '^(contract|server|web|demo|bench|e2e)/' },
    },
    {
      name: 'core-does-no-io',
      severity: 'error',
      from: { path: '^core/', pathNot: '(\\.test\\.ts$|^core/testing/)' },
      to: { dependencyTypes: ['core'], pathNot: '^$' },
    },
    {
      name: 'contract-imports-core-zod-and-base64',
      severity: 'error',
      from: { path: '^contract/', pathNot: '\\.test\\.ts$' },
      to: { pathNot: '^(contract/|core/|node_modules/(zod|base64-js)/)' },
    },
    { name: 'server-not-web', severity: 'error', from: { path: '^server/' }, to: { path: '^web/' } },
    { name: 'web-not-server', severity: 'error', from: { path: '^web/' }, to: { path: '^server/' } },
    {
      name: 'an-area-knows-no-other',
      severity: 'error',
      from: { path: '^server/areas/([^/]+)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^server/areas/', pathNot: '^server/areas/$1/' },
    },
    {
      name: 'the-kernel-knows-no-area',
      severity: 'error',
      from: { path: '^server/kernel/', pathNot: '\\.test\\.ts$' },
      to: { path: '^server/(areas|workers|app)' },
    },
    {
      name: 'a-stop-knows-no-other',
      severity: 'error',
      from: { path: '^web/stops/([^/]+)/' },
      to: { path: '^web/stops/', pathNot: '^web/stops/$1/' },
    },
    {
      name: 'nobody-imports-these',
      severity: 'error',
      from: { pathNot: '^(demo|bench|e2e)/|\\.test\\.tsx?$|^server/testing/' },
      to: { path: '^(demo|bench|e2e)/' },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    { name: 'resolvable', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
      extensions: ['.ts', '.tsx', '.js', '.json'],
    },
  },
}
