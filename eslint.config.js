import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'
import { oneWay } from './scripts/lint/oneWay.js'

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
  'queries/tree',
  'queries/values',
  'queries/functions',
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
  'queries/tree',
  'queries/values',
  'queries/functions',
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

/** Places of the web, lowest first. */
const webPlaces = [
  'theme/preset',
  'theme',
  'api',
  'session',
  'parts',
  'consistency',
  'jots',
  'notices',
  'guide',
  'definitions/store',
  'exchange',
  'work',
  'iterations',
  'tree',
  'views',
  'queries/tree',
  'queries/values',
  'queries/functions',
  'queries',
  'releases',
  'dashboards',
  'dashboards/widgets',
  'definitions/draft',
  'definitions/chapter',
  'definitions/types',
  'definitions/fields',
  'definitions/flows',
  'definitions/priorities',
  'definitions/labels',
  'definitions/components',
  'definitions/links',
  'definitions/templates',
  'definitions/limits',
  'definitions/calendars',
  'definitions/people',
  'definitions/editions',
  'definitions/audit',
  'definitions/rulebooks',
  'definitions/projects',
  'definitions/start',
  'definitions',
  'app',
]

/** Which workspaces a workspace may import, besides itself. */
const allowed = {
  core: [],
  server: ['core', 'scripts'],
  web: ['core', 'docs'],
  e2e: ['core', 'scripts'],
  bench: ['core', 'server', 'scripts'],
  scripts: ['server', 'core'],
}
const root = import.meta.dirname

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.bluestem/**', '**/*.generated.ts'] },
  ...tseslint.configs.recommendedTypeChecked,
  ...vue.configs['flat/essential'],
  {
    languageOptions: {
      parserOptions: {
        project: ['tsconfig.json', 'web/tsconfig.json'],
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
      // A thing is named by what it is.
      'id-denylist': ['error', 'one'],
      'no-console': ['error', { allow: ['log'] }],
    },
  },
  {
    files: ['{core,server,web,e2e,bench,scripts}/**'],
    plugins: { ours: { rules: { 'one-way': oneWay } } },
    rules: {
      'ours/one-way': [
        'error',
        { root, allowed, places: { core: corePlaces, server: serverPlaces, web: webPlaces } },
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
    // Tests read answers as they come, whose schemas the contract tests judge.
    files: ['**/*.test.ts', '**/test/**/*.ts', 'e2e/**/*.ts'],
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
