import withNuxt from './.nuxt/eslint.config.mjs'

const outside = (names) =>
  names.map((name) => ({
    group: [name, `${name}/**`],
    message: 'The core is pure: no interface, no server, no database.',
  }))

/** What no part of the core may know. */
const OUTSIDE = [
  'vue',
  'nuxt',
  'h3',
  'pinia',
  'drizzle-orm',
  'better-sqlite3',
  '#app',
  '#imports',
  '**/server',
  '**/app',
  '**/cli',
  '**/stand-ins',
  '**/disk',
  'node:fs',
  'node:http',
]

/** The rooms in which bytes are read. */
const MEDIA = ['files', 'sources', 'volumes', 'scanning', 'sqlite']
const NO_MEDIA = ['**/sources', '**/volumes', '**/scanning', '**/sqlite', '**/bench']

/** Inside the core, imports run from the ranking to the playbook to the cases, and never to where bytes are read. */
const imports = (folder, ...later) => ({
  files: [`core/${folder}/**/*.ts`],
  rules: { 'no-restricted-imports': ['error', { patterns: outside([...OUTSIDE, ...later]) }] },
})

/** Inside a room of the core, folders are layers: each knows the ones before it, and none after it. */
const layers = (room, folders, common) =>
  folders.map((folder, at) => ({
    files: [`core/${room}/${folder}/**/*.ts`],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            ...outside([...OUTSIDE, ...common]),
            ...folders.slice(at + 1).map((later) => ({
              group: [`../${later}/**`, `../../${later}/**`],
              message: `${room}/${folder} comes before ${room}/${later} and does not know it.`,
            })),
          ],
        },
      ],
    },
  }))

/** The rooms of the server, each of which knows only the ones before it. */
const SERVER_ROOMS = [
  'db',
  'archives',
  'threads',
  'search',
  'cases',
  'people',
  'http',
  'links',
  'listings',
  'passes',
  'shelf',
  'steps',
  'handover',
  'safekeeping',
  'afterwards',
  'exchange',
  'calendar',
  'ledger',
  'playbook',
  'bench',
  'stand-ins',
]

const PARSED_BESIDE = 'Parsers of what clients bring run beside the server’s thread: ask a process for it.'

export default withNuxt(
  {
    rules: {
      'vue/html-self-closing': 'off',
      'vue/multi-word-component-names': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', ignoreRestSiblings: true }],
    },
  },
  {
    // The core knows neither the network, nor the clock, nor chance.
    files: ['core/**/*.ts'],
    rules: {
      'no-restricted-imports': ['error', { patterns: outside(OUTSIDE) }],
      'no-restricted-globals': ['error', { name: 'fetch', message: 'The core reads no network.' }],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'The core has no clock: take now as an argument.' },
        { object: 'performance', property: 'now', message: 'The core has no clock: take now as an argument.' },
        { object: 'Math', property: 'random', message: 'The core has no chance of its own.' },
      ],
      'no-restricted-syntax': [
        'error',
        {
          selector: "NewExpression[callee.name='Date'][arguments.length=0]",
          message: 'The core has no clock: take now as an argument.',
        },
      ],
    },
  },
  imports('cases', '**/playbook', '**/ranking', ...NO_MEDIA),
  imports('playbook', '**/ranking', ...NO_MEDIA),
  imports('ranking', ...NO_MEDIA),
  imports('ledger', ...NO_MEDIA),
  imports('bench', '**/playbook', '**/ranking'),
  imports('archives', '**/playbook', '**/ranking', '**/volumes', '**/scanning'),
  imports('history', '**/cases', '**/playbook', '**/ranking', ...NO_MEDIA),
  ...layers('cases', ['shape', 'facts', 'telling'], ['**/playbook', '**/ranking', ...NO_MEDIA]),
  ...layers('ranking', ['situation', 'figures', 'order', 'explain'], NO_MEDIA),
  {
    files: MEDIA.map((room) => `core/${room}/**/*.ts`),
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            ...outside([...OUTSIDE, '**/playbook', '**/ranking', '**/bench']),
            {
              regex: '/cases/(?!shape/(data-types|moment)$)',
              message: 'Of the cases, media know only kinds of data and moments.',
            },
          ],
        },
      ],
    },
  },
  ...SERVER_ROOMS.map((room, at) => ({
    files: [`server/${room}/**/*.ts`],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [...SERVER_ROOMS.slice(at + 1), 'api', 'plugins', 'middleware', 'utils'].map((later) => ({
            group: [`../${later}/**`],
            message: `server/${room} comes before server/${later} and does not know it.`,
          })),
        },
      ],
    },
  })),
  {
    // Client data is parsed in child processes, which can be killed, never on the server's own thread.
    files: ['server/**/*.ts'],
    ignores: [
      'server/archives/**',
      'server/threads/{read-archive,read-file,read-media,read-rows,preview-content,open-medium}.ts',
      'server/passes/{pass-process,run-pass,found-rows}.ts',
      'server/stand-ins/archive.ts',
      'server/exchange/read-bundle.ts',
      'server/**/*.test.ts',
    ],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          paths: [
            'chardet',
            'csv-parse/sync',
            'exifr',
            'mammoth',
            'pako',
            'read-excel-file/node',
            'sharp',
            'yauzl',
          ].map((name) => ({ name, message: PARSED_BESIDE, allowTypeImports: true })),
          patterns: [
            {
              group: [
                '**/archives/{backup,folder,open,tar,zip,zip-salvage}',
                '**/core/{volumes,scanning,sqlite}/**',
                '**/core/files/formats/**',
                '**/threads/preview-content',
                '**/passes/{run-pass,found-rows}',
              ],
              message: PARSED_BESIDE,
              allowTypeImports: true,
            },
          ],
        },
      ],
    },
  },
  {
    files: ['core/**/*.test.ts', 'core/testing/*.ts'],
    rules: { 'no-restricted-properties': 'off', 'no-restricted-syntax': 'off', 'no-restricted-imports': 'off' },
  },
)
