/** Arrows point one way: web and server -> contracts -> core; command and instruments -> contracts, core. */
const room = (name) => `^${name}/src`;

/** The rooms of core, each knowing only those before it: quantities know nothing, drills may ask them all. */
const CORE_ROOMS = [
  'quantities',
  'seal',
  'chance',
  'cabling',
  'drawing',
  'connectors',
  'reflectometry',
  'metering',
  'continuity',
  'termination',
  'hearing',
  'adapters',
  'materials',
  'links',
  'report',
  'labels',
  'search',
  'as-built',
  'workmanship',
  'schedule',
  'drills',
];
const within = (name) => `^core/src/${name}/`;
const coreRooms = CORE_ROOMS.slice(0, -1).map((name, i) => ({
  name: `core-${name}-not-back`,
  comment: `core/src/${name} knows only rooms before it in CORE_ROOMS`,
  severity: 'error',
  from: { path: within(name) },
  to: { path: CORE_ROOMS.slice(i + 1).map(within) },
}));
module.exports = {
  forbidden: [
    {
      name: 'core-is-pure',
      comment: 'core knows no interface, network, database, clock or other room',
      severity: 'error',
      from: { path: room('core') },
      to: {
        pathNot: [
          room('core'),
          '^node_modules/(@noble/hashes|qrcode-generator|fft\\.js|ml-levenberg-marquardt|graphology)',
        ],
      },
    },
    ...coreRooms,
    {
      name: 'core-rooms-in-order',
      comment: 'a folder of core has its place in CORE_ROOMS',
      severity: 'error',
      from: {},
      to: { path: '^core/src/[^/]+/', pathNot: CORE_ROOMS.map(within) },
    },
    {
      name: 'core-rooms-one-by-one',
      comment: 'no file in a room of core asks for all of core',
      severity: 'error',
      from: { path: '^core/src/[^/]+/' },
      to: { path: '^core/src/[^/]+$' },
    },
    {
      name: 'contracts-on-core-only',
      severity: 'error',
      from: { path: room('contracts') },
      to: { path: ['^server', '^web', '^instruments', '^command'], dependencyTypesNot: ['core'] },
    },
    {
      name: 'server-not-web',
      severity: 'error',
      from: { path: room('server') },
      to: { path: ['^web', '^instruments', '^command'] },
    },
    {
      name: 'web-not-server',
      severity: 'error',
      from: { path: room('web') },
      to: { path: ['^server', '^instruments', '^command'] },
    },
    {
      name: 'web-without-node',
      severity: 'error',
      from: { path: room('web') },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'beliefs-in-workers',
      comment: 'a page works no belief through on its main thread',
      severity: 'error',
      from: { path: '^web/', pathNot: ['\\.worker\\.ts$', '^web/src/app/testing/'] },
      to: { path: '^web/src/app/link/belief-told\\.ts$', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'stand-ins-apart',
      severity: 'error',
      from: { path: room('instruments') },
      to: { path: ['^server', '^web', '^command'] },
    },
    {
      name: 'command-on-core',
      severity: 'error',
      from: { path: room('command') },
      to: { path: ['^server', '^web', '^instruments'] },
    },
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    { name: 'nothing-unresolved', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.base.json' },
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(test|dist|migrations)/|\\.spec\\.ts$' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
