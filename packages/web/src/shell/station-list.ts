/** The stations there are, in working order. */
export const stations = [
  { path: 'panel', name: 'Panel' },
  { path: 'artwork', name: 'Artwork' },
  { path: 'pages', name: 'Pages' },
  { path: 'variables', name: 'Variables' },
  { path: 'frames', name: 'Frames' },
  { path: 'bench', name: 'Bench' },
  { path: 'exchanges', name: 'Exchanges' },
] as const

export type StationPath = (typeof stations)[number]['path']
