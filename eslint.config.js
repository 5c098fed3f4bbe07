import boundaries from 'eslint-plugin-boundaries'
import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'

const packages = [
  { type: 'core', pattern: 'core/**', partialMatch: false },
  { type: 'server', pattern: 'server/**', partialMatch: false },
  { type: 'web', pattern: 'web/**', partialMatch: false },
  { type: 'e2e', pattern: 'e2e/**', partialMatch: false },
  { type: 'bench', pattern: 'bench/**', partialMatch: false },
  { type: 'scripts', pattern: 'scripts/**', partialMatch: false },
]
const may = (from, ...to) => ({
  from: { element: { types: [from] } },
  allow: [{ to: { element: { types: [from, ...to] } } }],
})

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.bluestem/**', '**/*.generated.ts'] },
  ...tseslint.configs.recommended,
  ...vue.configs['flat/essential'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: tseslint.parser } } },
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
    plugins: { boundaries },
    settings: {
      'boundaries/elements': packages,
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
            may('core'),
            may('server', 'core', 'scripts'),
            may('web', 'core'),
            may('e2e', 'core', 'scripts'),
            may('bench', 'core', 'server', 'scripts'),
            may('scripts', 'server'),
          ],
        },
      ],
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
  { files: ['server/test/**/*.ts'], rules: { '@typescript-eslint/no-explicit-any': 'off' } },
)
