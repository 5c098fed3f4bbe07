import boundaries from 'eslint-plugin-boundaries'
import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'

/** Places of the core, lowest first: each may import itself and those before it. */
const corePlaces = [
  'known',
  'schema',
  'calendar',
  'language',
  'saved',
  'jobs',
  'jots',
  'iterations',
  'releases',
  'tree',
  'definitions/document',
  'limits',
  'queries',
  'components',
  'labels',
  'merges',
  'audit',
  'people',
  'directory',
  'projects',
  'teams',
  'consistency',
  'dashboards',
  'views',
  'definitions/rulebook',
  'definitions/draft',
  'definitions/words',
  'definitions/impact',
  'vocabulary',
  'definitions/validate',
  'definitions',
  'starters',
  'work',
  'notices',
  'bulk',
  'bin',
  'exchange',
  'templates',
  'contract',
]

/** Places of the server, lowest first. */
const serverPlaces = [
  'problems',
  'database',
  'workspace',
  'sql',
  'http',
  'jobs',
  'items',
  'audit',
  'calendars',
  'saved',
  'queries',
  'labels',
  'components',
  'merges',
  'teams',
  'work',
  'notices',
  'jots',
  'iterations',
  'releases',
  'tree',
  'bulk',
  'bin',
  'exchange',
  'templates',
  'views',
  'dashboards',
  'definitions',
  'projects',
  'people',
  'directory',
  'live',
  'database/migrations',
  'demo',
]

const placesOf = (root, places) =>
  // The deepest folder comes first, for the first pattern that matches names the place of a file.
  [...places]
    .sort((a, b) => b.split('/').length - a.split('/').length)
    .map((place) => ({
      type: `${root}/${place}`,
      pattern: `${root}/src/${place}/**`,
      partialMatch: false,
    }))

const workspaces = ['core', 'server', 'web', 'e2e', 'bench', 'scripts'].map((type) => ({
  type,
  pattern: `${type}/**`,
  partialMatch: false,
}))

const may = (from, ...to) => ({
  from: { element: { types: [from] } },
  allow: [{ to: { element: { types: [from, ...to] } } }],
})

const oneWay = (root, places, ...also) =>
  places.map((place, index) =>
    may(`${root}/${place}`, ...places.slice(0, index).map((below) => `${root}/${below}`), ...also),
  )

const allOf = (root, places) => [root, ...places.map((place) => `${root}/${place}`)]
const core = allOf('core', corePlaces)
const server = allOf('server', serverPlaces)

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.bluestem/**', '**/*.generated.ts'] },
  ...tseslint.configs.recommendedTypeChecked,
  ...vue.configs['flat/essential'],
  {
    languageOptions: {
      parserOptions: {
        project: [
          'core/tsconfig.test.json',
          'server/tsconfig.json',
          'web/tsconfig.json',
          'e2e/tsconfig.json',
          'bench/tsconfig.json',
          'scripts/tsconfig.json',
        ],
        extraFileExtensions: ['.vue'],
      },
    },
  },
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: tseslint.parser } } },
  // Plain JavaScript calls the built server, which has no types; the types of components are vue-tsc's to judge.
  {
    files: ['**/*.js', '**/*.mjs', '**/*.vue', 'vitest.config.ts'],
    extends: [tseslint.configs.disableTypeChecked],
  },
  {
    rules: {
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_' },
      ],
      '@typescript-eslint/no-explicit-any': 'error',
      'no-control-regex': 'off',
      'vue/multi-word-component-names': 'off',
      eqeqeq: 'error',
      'no-console': ['error', { allow: ['log'] }],
    },
  },
  {
    // Imports run one way: web → core, server → core; never between web and server, never out of core.
    // Inside core and server each place imports only those below it.
    plugins: { boundaries },
    settings: {
      'boundaries/elements': [
        ...placesOf('core', corePlaces),
        ...placesOf('server', serverPlaces),
        ...workspaces,
      ],
      'import/resolver': {
        typescript: {
          alwaysTryTypes: true,
          noWarnOnMultipleProjects: true,
          project: ['core/tsconfig.test.json', 'server/tsconfig.json', 'web/tsconfig.json'],
        },
      },
    },
    rules: {
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: [
            ...oneWay('core', corePlaces, 'core'),
            ...oneWay('server', serverPlaces, ...core),
            may('core', ...core),
            may('server', ...core, ...server, 'scripts'),
            may('web', ...core),
            may('e2e', ...core, 'scripts'),
            may('bench', ...core, ...server, 'scripts'),
            may('scripts', ...server),
          ],
        },
      ],
    },
  },
  {
    // What is larger has two ideas in it. A switch over the kinds of one thing counts once, for it is a table.
    files: [
      'core/src/**/*.ts',
      'server/src/**/*.ts',
      'web/src/**/*.ts',
      'web/src/**/*.vue',
      'bench/**/*.ts',
      'scripts/**/*.mjs',
    ],
    ignores: ['**/*.test.ts'],
    rules: {
      'max-lines': ['error', { max: 300, skipBlankLines: true, skipComments: true }],
      'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }],
      complexity: ['error', { max: 15, variant: 'modified' }],
    },
  },
  {
    // The core is pure: no Node, no page, no clock and no chance of its own.
    files: ['core/src/**/*.ts'],
    ignores: ['core/src/**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: ['node:*', '@bluestem/*', 'vue', 'express', 'sequelize'] },
      ],
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'fetch', 'localStorage'],
      'no-restricted-syntax': [
        'error',
        {
          selector: "CallExpression[callee.object.name='Date'][callee.property.name='now']",
          message: 'Time comes in as an argument.',
        },
        {
          selector: "CallExpression[callee.object.name='Math'][callee.property.name='random']",
          message: 'Chance comes in as an argument.',
        },
        {
          selector: "NewExpression[callee.name='Date'][arguments.length=0]",
          message: 'Time comes in as an argument.',
        },
      ],
    },
  },
  {
    // Every control is PrimeVue's, through our parts where one fits (docs/decisions/0001).
    files: ['web/src/**/*.vue'],
    ignores: [
      // The long list of items: a table of the library takes six times as long for each frame.
      'web/src/parts/ItemTable.vue',
      'web/src/parts/ItemTableHead.vue',
      'web/src/tree/TreeTable.vue',
      'web/src/tree/TreeBranch.vue',
      // A grid of moves, walked by arrows in two directions: the library has no such control.
      'web/src/definitions/flows/FlowGrid.vue',
      'web/src/definitions/flows/FlowCell.vue',
      // A file is chosen by the browser's own dialog.
      'web/src/definitions/editions/DefinitionsFile.vue',
      // Lists of thousands, of which only the rows in sight are made: 5,000 labels open in the library's table in four times the
      // time and narrow in six times.
      'web/src/parts/LongLedger.vue',
    ],
    rules: {
      'vue/no-restricted-html-elements': [
        'error',
        ...['select', 'dialog', 'input', 'textarea', 'table', 'button', 'details'].map(
          (element) => ({ element, message: 'Use a control of PrimeVue, or our part around it.' }),
        ),
      ],
    },
  },
  {
    // A statement written out stands in these places only, as a function with a name; everything else uses the models.
    files: ['server/src/**/*.ts'],
    ignores: ['server/src/sql/**', 'server/src/items/**', 'server/src/database/migrations/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...['Literal[value', 'TemplateElement[value.raw'].map((text) => ({
          selector: `${text}=/^\\s*\\(?(SELECT|INSERT INTO|UPDATE|DELETE FROM|WITH|CREATE|ALTER|DROP|LISTEN|VACUUM) /]`,
          message: 'SQL stands in server/src/sql, server/src/items and the migrations.',
        })),
      ],
    },
  },
  {
    // These tests read answers whose schemas are not told yet.
    files: ['server/test/**/*.ts'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'off',
      '@typescript-eslint/no-unsafe-argument': 'off',
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-call': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-return': 'off',
    },
  },
)
