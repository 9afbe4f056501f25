/** Arrows point one way: web and server -> contracts -> core; command and instruments -> contracts, core. */
const room = (name) => `^${name}/src`;
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
