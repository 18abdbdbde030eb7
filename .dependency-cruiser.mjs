// The direction of every import, as rules: packages one way, and inside core each folder imports lower ranks only,
// through their index.ts.
const ranks = {
  0: ['base'],
  1: ['describe'],
  2: ['variables', 'frames', 'raster'],
  3: ['artwork', 'palette', 'settings', 'calculator'],
  4: ['protocols', 'faces', 'rules'],
  5: ['widgets', 'scripts', 'examples'],
  6: ['project', 'compounds'],
  7: ['compile', 'codegen', 'explain', 'budget', 'saver'],
  8: ['panel', 'line', 'bundle', 'signal-path'],
  9: ['host'],
  10: ['rig'],
  11: ['exchanges', 'findings'],
  12: ['workbench'],
}
const rankOf = Object.fromEntries(Object.entries(ranks).flatMap(([rank, folders]) => folders.map((f) => [f, Number(rank)])))
const test = '[.]test[.]tsx?$'

const downwards = Object.keys(rankOf).map((folder) => {
  const allowed = Object.keys(rankOf).filter((f) => f === folder || rankOf[f] < rankOf[folder])
  return {
    name: `core-${folder}-imports-lower-ranks`,
    severity: 'error',
    from: { path: `^packages/core/src/${folder}/`, pathNot: test },
    to: { path: '^packages/core/src/', pathNot: `^packages/core/src/(${allowed.join('|')})/` },
  }
})
const throughIndex = Object.keys(rankOf).map((folder) => ({
  name: `core-${folder}-is-entered-by-its-index`,
  severity: 'error',
  from: { path: '^packages/', pathNot: `^packages/core/src/(${folder}|testing)/` },
  to: { path: `^packages/core/src/${folder}/`, pathNot: `^packages/core/src/${folder}/index[.]ts$` },
}))

// The interface: a folder imports those before it; of the stations none imports another.
const webRanks = [
  ['worker'],
  ['session'],
  ['controls'],
  ['parts'],
  ['commands'],
  ['glass'],
  ['inspector'],
  ['stations'],
  ['shell'],
  ['app'],
]
const web = 'packages/web/src'
const webDownwards = webRanks.flatMap((folders, rank) =>
  folders.map((folder) => ({
    name: `web-${folder}-imports-what-is-before-it`,
    severity: 'error',
    from: { path: `^${web}/${folder}/`, pathNot: test },
    to: { path: `^${web}/[^/]+/`, pathNot: `^${web}/(${[folder, ...webRanks.slice(0, rank).flat()].join('|')})/` },
  })),
)
const stationsApart = {
  name: 'web-stations-stand-apart',
  severity: 'error',
  from: { path: `^${web}/stations/([^/]+)/` },
  to: { path: `^${web}/stations/[^/]+/`, pathNot: `^${web}/stations/$1/` },
}

const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  from: { path: `^packages/${from}/src/`, pathNot: test },
  to: { path: '^packages/', pathNot: `^packages/(${allowed.join('|')})/` },
})

export default {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    { name: 'everything-resolves', severity: 'error', from: {}, to: { couldNotResolve: true, pathNot: '[.]wasm[?]url$' } },
    only('core-imports-core', 'core', ['core']),
    only('contract-imports-core', 'contract', ['contract', 'core']),
    only('server-imports-contract-and-core', 'server', ['server', 'contract', 'core']),
    only('web-imports-contract-and-core', 'web', ['web', 'contract', 'core']),
    {
      name: 'core-knows-no-platform',
      severity: 'error',
      from: { path: '^packages/core/src/', pathNot: [test, '^packages/core/src/testing/'] },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-takes-small-pure-libraries',
      severity: 'error',
      from: { path: '^packages/core/src/', pathNot: [test, '^packages/core/src/testing/'] },
      to: {
        path: 'node_modules',
        pathNot:
          'node_modules/(joi|immer|fflate|lru-cache|fast-png|@jsquash/jpeg|@jsquash/webp|opentype[.]js|@types/opentype[.]js|@noble/hashes|saxes)/',
      },
    },
    {
      name: 'core-folders-have-a-rank',
      severity: 'error',
      from: { path: `^packages/core/src/(?!(${Object.keys(rankOf).join('|')}|testing)/)` },
      to: {},
    },
    ...downwards,
    ...webDownwards,
    stationsApart,
    ...throughIndex,
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'require', 'node', 'default', 'types'] },
  },
}
