/** The law of the house: arrows point one way. See docs/decisions/house.md. */
const area = (name) => `^${name}/src`;
const only = (name, from, to) => ({ name, severity: 'error', from: { path: from }, to });

/** Inside core: what each part may stand on besides itself. */
const coreParts = {
  collections: [],
  hours: [],
  match: [],
  sources: [],
  phones: [],
  dialling: [],
  numbers: [],
  model: ['blocking', 'numbers', 'hours', 'phones', 'dialling', 'voicemail'],
  blocking: [],
  sip: ['phones'],
  random: [],
  distribute: ['collections', 'model', 'random'],
  outbound: ['hours', 'match', 'numbers'],
  contracts: ['blocking', 'dialling', 'hours', 'model', 'phones', 'plan', 'sound', 'voicemail'],
  sound: [],
  staffing: [],
  voicemail: ['hours'],
  plan: ['hours', 'match', 'model', 'numbers', 'story'],
  story: ['distribute', 'hours', 'model', 'numbers', 'outbound'],
  readiness: ['distribute', 'model'],
  exchange: [
    ...['collections', 'dialling', 'distribute', 'hours', 'model', 'outbound', 'phones', 'plan', 'story'],
    ...['blocking', 'numbers', 'random', 'sound', 'staffing', 'voicemail'],
  ],
  devices: ['exchange', 'model', 'phones', 'story'],
  rehearse: ['collections', 'exchange', 'model', 'plan', 'random', 'staffing', 'story'],
};

module.exports = {
  forbidden: [
    {
      name: 'no-cycles',
      severity: 'error',
      from: {},
      to: { circular: true, dependencyTypesNot: ['type-only'] },
    },
    only('core-stands-alone', area('core'), { path: '^(server|standins|web|e2e|scripts)/' }),
    only('core-no-node', area('core'), { dependencyTypes: ['core'] }),
    only('core-few-packages', area('core'), {
      path: 'node_modules',
      pathNot: 'node_modules/(joi|@noble/hashes|libphonenumber-js|ical\\.js)/',
    }),
    only('server-not-web', area('server'), { path: '^(web|standins|e2e)/' }),
    only('standins-not-server', area('standins'), { path: '^(web|server|e2e)/' }),
    only('web-not-server', area('web'), { path: '^(server|standins|e2e)/' }),
    {
      name: 'web-without-joi',
      severity: 'error',
      from: { path: area('web') },
      to: {
        path: 'node_modules/joi/|\\.schema\\.ts$|^core/src/contracts/',
        dependencyTypesNot: ['type-only'],
      },
    },
    ...Object.entries(coreParts).map(([part, allowed]) =>
      only(`core-${part}`, `^core/src/${part}/`, {
        path: '^core/src/',
        pathNot: `^core/src/(${[part, ...allowed].join('|')})/`,
      }),
    ),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.(test|testing)\\.ts$' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['source', 'import', 'default'] },
  },
};
