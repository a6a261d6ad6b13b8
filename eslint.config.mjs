import tseslint from 'typescript-eslint'
import vue from 'eslint-plugin-vue'
import vueParser from 'vue-eslint-parser'
import prettier from 'eslint-config-prettier'

/** Imports run one way: app and server to contracts to core, server to render to core. */
const boundary = (folder, forbidden, extra = []) => ({
  files: [`${folder}/**/*.{ts,vue}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          ...forbidden.map((name) => ({ regex: `^(@${name}(/|$)|(\\.\\./)+${name}(/|$))`, message: `${folder} must not import ${name}.` })),
          // A folder's index is its door.
          { regex: '^@(core|render)/[^/]+/.+', message: 'Import from the folder, not from a file inside it.' },
          ...extra,
        ],
      },
    ],
  },
})

export default tseslint.config(
  { ignores: ['.nuxt/**', '.output/**', '.data/**', 'node_modules/**', 'public/**', 'demo/talks/**'] },
  ...tseslint.configs.strict,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parser: vueParser, parserOptions: { parser: tseslint.parser, extraFileExtensions: ['.vue'], sourceType: 'module' } },
  },
  {
    rules: {
      'no-undef': 'off',
      'no-console': 'off',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'max-lines': ['error', { max: 400, skipBlankLines: true }],
      'max-statements-per-line': ['error', { max: 1 }],
      'no-nested-ternary': 'error',
      // An exhaustive switch is one decision, however many kinds there are.
      complexity: ['error', { max: 12, variant: 'modified' }],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/ban-ts-comment': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
      'vue/attributes-order': 'off',
    },
  },
  // How lines are broken is for the formatter alone (.prettierrc.json).
  prettier,
  {
    // What it cannot break, sentences and comments, is kept as short by hand. In templates too.
    files: ['**/*.ts', '**/*.mjs'],
    rules: { 'max-len': ['error', { code: 140, ignoreUrls: true }] },
  },
  { files: ['**/*.vue'], rules: { 'vue/max-len': ['error', { code: 140, template: 140, ignoreUrls: true }] } },
  boundary(
    'core',
    ['app', 'server', 'render', 'contracts'],
    [{ regex: '^(node:|vue$|nuxt|kysely$|joi$|pg$)', message: 'core is pure computation.' }],
  ),
  boundary('contracts', ['app', 'server', 'render']),
  boundary('render', ['app', 'server', 'contracts']),
  boundary('server', ['app', 'stand-ins']),
  boundary('app', ['server', 'render', 'stand-ins']),
  // They know of the product what is written down for everybody.
  boundary('stand-ins', ['app', 'contracts']),
  {
    // The page-bound part of core that only tests need may reach into it.
    files: ['**/*.test.ts', 'core/testing/**'],
    rules: { 'max-lines': 'off' },
  },
  {
    // A journey is told from its beginning to its end, and a reference implementation as simply as can be.
    files: ['**/*.test.ts', 'core/testing/**', 'tests/**', 'bench/**'],
    rules: { complexity: 'off' },
  },
  { files: ['server/settings/**', 'app/pages/**', 'app/app.vue'], rules: { 'vue/multi-word-component-names': 'off' } },
)
