// The import rules (docs/architecture.md, "Where things live"): arrows point one way.
const layer = (name, from, to, except) => ({
  name,
  severity: 'error',
  from: { path: from, pathNot: '\\.test\\.ts$' },
  to: { path: to, ...(except ? { pathNot: except } : {}) },
});
module.exports = {
  forbidden: [
    layer('core-imports-only-core', '^src/core', '^src/', '^src/core'),
    layer(
      'core-is-pure',
      '^src/core',
      '^(node_modules|node:|fs|net|http|path|os|crypto)',
      'node_modules/(class-validator|lru-cache|mutative|windows-1252|@sindresorhus/transliterate|@bufbuild/(cel|cel-spec|protobuf))',
    ),
    layer('stage-imports-core', '^src/stage', '^src/', '^src/(stage|core)'),
    layer('stage-has-no-framework', '^src/stage', '^node_modules'),
    {
      // An air page loads what it draws with and nothing else: no schemas, no formulas.
      name: 'stage-is-light',
      severity: 'error',
      from: { path: '^src/stage', pathNot: '\\.test\\.ts$' },
      to: {
        path: '^src/core',
        pathNot:
          '^src/core/(board/values|clock/clock|colour/colour-text|tape/show-time|layers/(?!read)|text/fit|text/font-stack|show/layout)',
        dependencyTypesNot: ['type-only'],
      },
    },
    {
      name: 'what-the-stage-loads-is-light',
      severity: 'error',
      from: {
        path: '^src/core/(board/values|clock/clock|colour/colour-text|tape/show-time|layers/(?!read)|text/fit|text/font-stack|show/layout)\\.ts$',
      },
      to: {
        pathNot:
          '^src/core/(board/values|clock/clock|colour/colour-text|tape/show-time|layers/(?!read)|text/fit|text/font-stack|show/layout)',
        dependencyTypesNot: ['type-only'],
      },
    },
    layer('ui-imports-core', '^src/ui', '^src/', '^src/(ui|core)'),
    layer('views-import-ui-stage-core', '^src/views', '^src/', '^src/(views|ui|stage|core)'),
    layer('server-imports-core', '^src/server', '^src/', '^src/(server|core)'),
    layer('sim-imports-nothing-of-the-engine', '^src/sim', '^src/', '^src/sim'),
    layer('nothing-imports-sim', '^src/(core|stage|server|views|ui|pages)', '^src/sim'),
    {
      name: 'no-circular',
      severity: 'error',
      from: { path: '^src' },
      to: { circular: true, dependencyTypesNot: ['type-only'] },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    enhancedResolveOptions: { extensions: ['.ts', '.tsx', '.js', '.mjs'] },
  },
};
