import withNuxt from './.nuxt/eslint.config.mjs'

/** Folders of core, lowest first: each may import from itself and from those before it. */
const LAYERS = [
  'numbers',
  'geometry',
  'folio',
  'photo',
  'sheets',
  'questions',
  'ink',
  'maths',
  'guides',
  'figures',
  'things',
  'recording',
  'cut',
  'scene',
  'sound',
  'captions',
  'edition',
  'lesson',
  'video',
  'publish',
]

const forbid = (files, patterns) => ({ files, rules: { 'no-restricted-imports': ['error', { patterns }] } })

/** Small pure helpers that need no layer: errors and ids may be used by ink, take and the rest. */
const layerRules = LAYERS.map((name, i) =>
  forbid(
    [`core/${name}/**/*.ts`],
    [
      {
        group: [
          'vue',
          'pinia',
          'dexie',
          'nuxt',
          'nuxt/*',
          '@nuxt/*',
          '#app',
          '#imports',
          '~/*',
          '@/*',
          '**/app/**',
          '**/workers/**',
          '**/server/**',
        ],
        message: 'core knows nothing of the interface, the store or the server.',
      },
      ...(i + 1 < LAYERS.length
        ? [
            {
              // The schemas of events are part of what a folio is.
              regex: `^(\\.\\.|#core)/(${LAYERS.slice(i + 1).join('|')})(/(?!events/schemas$).*)?$`,
              message: `core/${name} lies below these folders.`,
            },
          ]
        : []),
    ],
  ),
)

/** What a question looks and sounds like now is put together in one place. */
const EDITION = [
  {
    group: ['**/cut', '**/cut/*'],
    importNames: ['Cut', 'struckOf', 'keptOf'],
    message: 'ask for the edition (core/edition).',
  },
  {
    group: ['**/recording', '**/recording/*'],
    importNames: ['moveLog'],
    message: 'ask for the edition, or layLog (core/edition).',
  },
]
const NO_DEXIE = { group: ['dexie'], message: 'only app/data knows Dexie.' }

export default withNuxt(
  { ignores: ['public/**', '.output/**', 'out/**', 'student/built/**'] },
  ...layerRules,
  forbid(
    ['workers/**/*.ts'],
    [
      ...EDITION,
      {
        group: ['vue', 'pinia', 'dexie', '~/*', '**/app/**', '#imports', '#app'],
        message: 'workers run core, and know nothing of the interface.',
      },
    ],
  ),
  forbid(
    ['student/**/*.ts'],
    [
      {
        group: ['vue', 'pinia', 'dexie', 'zod', '~/*', '**/app/**', '**/workers/**', '**/server/**'],
        message: 'students load this: core only, without schemas.',
      },
    ],
  ),
  forbid(
    ['server/**/*.ts'],
    [{ group: ['vue', 'pinia', 'dexie', '~/*', '**/app/**', '**/workers/**'], message: 'the server uses core only.' }],
  ),
  forbid(
    ['app/components/**', 'app/pages/**', 'app/layouts/**', 'app/app.vue'],
    [
      ...EDITION,
      {
        group: ['dexie', '~/data/*', '**/data/**', '**/devices/**', '**/work/**'],
        message: 'a component talks to a store or a composable, never to a repository, a device or long work.',
      },
    ],
  ),
  forbid(
    [
      'app/stores/**',
      'app/composables/**',
      'app/board/**',
      'app/paper/**',
      'app/work/**',
      'app/devices/**',
      'app/plugins/**',
    ],
    [...EDITION, NO_DEXIE],
  ),
  {
    files: ['core/**/*.ts', 'workers/**/*.ts'],
    rules: { 'no-restricted-globals': ['error', 'document', 'window', 'localStorage', 'indexedDB'] },
  },
  {
    rules: {
      'vue/multi-word-component-names': 'off',
      '@typescript-eslint/no-dynamic-delete': 'off',
      'vue/html-self-closing': 'off',
      // Branches of a function; what has more is parted, or becomes a table.
      'complexity': ['warn', 25],
      'max-len': [
        'warn',
        { code: 140, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreRegExpLiterals: true, ignoreUrls: true },
      ],
    },
  },
  {
    files: ['**/*.vue'],
    rules: {
      'max-len': 'off',
      'vue/max-len': [
        'warn',
        {
          code: 140,
          template: 140,
          ignoreStrings: true,
          ignoreTemplateLiterals: true,
          ignoreHTMLAttributeValues: true,
          ignoreHTMLTextContents: true,
        },
      ],
    },
  },
  // Data, word lists, and papers made at random, each choice a branch.
  { files: ['core/sheets/**', 'core/questions/vocabulary.ts', 'bench/papers/**'], rules: { 'max-len': 'off' } },
  { files: ['bench/papers/**'], rules: { complexity: 'off' } },
  {
    files: [
      'core/**',
      'workers/**',
      'server/**',
      'student/**',
      'app/work/**',
      'app/data/**',
      'app/devices/**',
      'app/paper/**',
      'app/board/**',
    ],
    rules: { 'max-lines-per-function': ['warn', { max: 80, skipComments: true, skipBlankLines: true }] },
  },
)
