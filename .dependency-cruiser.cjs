/** Arrows between folders run one way; docs/architecture.md says why. */
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  from: { path: from },
  // Bounded memories and errors that are said are used everywhere and need nothing.
  to: { path: '^src/', pathNot: [from, '^src/core/(memory|said)/', ...allowed] },
})

module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: { path: '^src' },
      to: { circular: true },
    },
    only('scene-needs-nothing', '^src/core/scene/', []),
    only('memory-needs-nothing', '^src/core/memory/', []),
    only('said-needs-nothing', '^src/core/said/', []),
    only('registry-needs-nothing', '^src/core/registry/', []),
    only('geo', '^src/core/geo/', ['^src/core/(scene|projection)/']),
    only('projection', '^src/core/projection/', ['^src/core/(scene|geo)/']),
    only('colour', '^src/core/colour/', ['^src/core/scene/']),
    only('classify', '^src/core/classify/', ['^src/core/(registry|scene)/']),
    only('grid', '^src/core/grid/', ['^src/core/(geo|projection|scene)/']),
    only('cartogram', '^src/core/cartogram/', ['^src/core/(grid|geo|projection)/']),
    only('data', '^src/core/data/', ['^src/core/(registry|classify|grid|geo|projection|scene)/']),
    only('treemap', '^src/core/treemap/', ['^src/core/(data|scene)/']),
    only('labels', '^src/core/labels/', ['^src/core/(registry|classify|data|scene)/']),
    only('kinds', '^src/core/kinds/', [
      '^src/core/(registry|classify|colour|projection|labels|data|cartogram|grid|geo|scene)/',
    ]),
    only('map', '^src/core/map/', [
      '^src/core/(registry|kinds|classify|colour|projection|labels|data|grid|geo|scene)/',
    ]),
    only('legend', '^src/core/legend/', [
      '^src/core/(map|kinds|classify|colour|projection|labels|data|geo|scene)/',
    ]),
    only('sheet', '^src/core/sheet/', [
      '^src/core/(registry|legend|map|kinds|treemap|classify|colour|projection|labels|data|geo|scene)/',
    ]),
    only('print', '^src/core/print/', ['^src/core/(sheet|scene)/']),
    only('folio', '^src/core/folio/', ['^src/core/(sheet|map|kinds|labels|colour|data|scene)/']),
    only('core-needs-nothing-of-ours', '^src/core/', []),
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^src/core/' },
      to: {
        path: [
          '^node:',
          '^(fs|path|react|next|sequelize|sqlite3)(/|$)',
          'node_modules/(react|next|sequelize|sqlite3|sharp|@napi-rs)/',
        ],
      },
    },
    only('render', '^src/render/', ['^src/core/']),
    only('formats', '^src/formats/', ['^src/core/']),
    only('server', '^src/server/', ['^src/(core|render|formats)/']),
    {
      // What answers starts in a moment: documents, templates and folio files are read in processes of tasks.
      name: 'server-answers-without-the-schema',
      severity: 'error',
      from: { path: '^src/(server|app/api)/', pathNot: '^src/server/(work/tasks|testing)/' },
      to: {
        path: '^src/(core/(folio/schema|sheet/template|sheet/registry|map|kinds)|formats/(folio|template)-file)',
        pathNot: '^src/core/folio/schema-print',
        dependencyTypesNot: ['type-only'],
      },
    },
    only('cli', '^src/cli/', ['^src/(core|render|formats)/']),
    only('workers', '^src/workers/', ['^src/(core|render|formats)/']),
    {
      name: 'ui',
      severity: 'error',
      from: { path: '^src/ui/' },
      to: { path: '^src/(app|cli|render|server)/', dependencyTypesNot: ['type-only'] },
    },
    only('app', '^src/app/', ['^src/(ui|server|core|render)/']),
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.test\\.ts$' },
  },
}
