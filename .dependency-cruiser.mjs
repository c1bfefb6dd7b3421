/**
 * Layers of the core, each knowing those before it alone; the last few stand beside each other. Above it server and page, which never meet.
 * Tests may look anywhere.
 */
const layers = [
  'units',
  'problems',
  'smf',
  'instruments',
  'timing',
  'song',
  'harmony',
  'guessing',
  'edit',
  'operations',
  'looking',
];
const beside = {
  handoff: [...layers.slice(0, -1), 'playing'],
  lists: layers.slice(0, -1),
  playing: layers.slice(0, -2),
  looking: layers.slice(0, -1),
  work: [...layers, 'handoff', 'lists'],
};
const known = Object.fromEntries(layers.map((layer, n) => [layer, layers.slice(0, n)]));

const never = (name, from, to, not) => ({
  name,
  severity: 'error',
  from: { path: from, pathNot: '\\.test\\.tsx?$' },
  to: { path: to, ...(not ? { pathNot: not } : {}) },
});
/** A folder of the core knows itself and these others, and of packages what it needs. */
const layer = ([name, others]) =>
  never(
    `${name}-knows-what-is-below`,
    `^core/${name}/`,
    '^core/',
    `^core/(${[name, ...others].join('|')})/`,
  );

/** Bytes, units, time arithmetic; of everything else the types alone. */
const independent = (name, from, own) => ({
  name,
  severity: 'error',
  from: { path: from, pathNot: '\\.test\\.tsx?$' },
  to: {
    path: '^core/',
    pathNot: [
      ...own,
      '^core/units/',
      '^core/smf/(events|division)\\.ts$',
      '^core/timing/(tempo-map|meter-map)\\.ts$',
    ],
    dependencyTypesNot: ['type-only'],
  },
});

export default {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    never('core-stands-alone', '^core', '^(server|web|contracts|demo|tools)'),
    ...Object.entries({ ...known, ...beside }).map(layer),
    // An operation is a folder: what several need is in core/edit.
    never(
      'no-operation-inside-another',
      '^core/operations/(\\w+/[\\w-]+)/',
      '^core/operations/\\w+/[\\w-]+/',
      '^core/operations/$1/',
    ),
    // The proof and the receivers' judge share nothing with what makes files: decision 26.
    independent('proof-is-independent', '^core/handoff/proof/', ['^core/handoff/proof/']),
    independent('judge-is-independent', '^core/handoff/forecast/judge/', [
      '^core/handoff/forecast/judge/',
      '^core/handoff/proof/',
    ]),
    never(
      'what-the-proof-shares-is-arithmetic',
      '^core/(units|smf/(events|division)|timing/(tempo-map|meter-map))',
      '^core/',
      '^core/(units/|smf/(events|division)|timing/(tempo-map|meter-map|timing))',
    ),
    never('contracts-know-core-alone', '^contracts', '^(server|web|demo|tools)'),
    never('server-not-web', '^server', '^web'),
    // What several screens need has a room of its own; the rooms know no screens.
    never(
      'no-screen-inside-another',
      '^web/screens/([\\w-]+)/',
      '^web/screens/',
      '^web/screens/$1/',
    ),
    never('rooms-know-no-screens', '^web/(?!screens/|app\\.tsx|main\\.tsx)', '^web/screens/'),
    never('web-not-server', '^web', '^(server|tools)'),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import'] },
    exclude: { path: '\\.(css|svg)$' },
  },
};
