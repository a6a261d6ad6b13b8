import tseslint from 'typescript-eslint'
import vue from 'eslint-plugin-vue'
import vueParser from 'vue-eslint-parser'

/** Imports run one way: app and server to contracts to core, server to render to core. */
const boundary = (folder, forbidden, extra = []) => ({
  files: [`${folder}/**/*.{ts,vue}`],
  rules: {
    'no-restricted-imports': ['error', {
      patterns: [
        ...forbidden.map((name) => ({ regex: `^(@${name}(/|$)|(\\.\\./)+${name}(/|$))`, message: `${folder} must not import ${name}.` })),
        // A folder's index is its door.
        { regex: '^@(core|render)/[^/]+/.+', message: 'Import from the folder, not from a file inside it.' },
        ...extra,
      ],
    }],
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
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/ban-ts-comment': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
      'vue/multi-word-component-names': 'off',
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/html-indent': 'off',
      'vue/first-attribute-linebreak': 'off',
      'vue/html-self-closing': 'off',
      'vue/require-default-prop': 'off',
      'vue/attributes-order': 'off',
    },
  },
  boundary('core', ['app', 'server', 'render', 'contracts'], [{ regex: '^(node:|vue$|nuxt|kysely$|joi$|pg$)', message: 'core is pure computation.' }]),
  boundary('contracts', ['app', 'server', 'render']),
  boundary('render', ['app', 'server', 'contracts']),
  boundary('server', ['app']),
  boundary('app', ['server', 'render']),
  {
    // The page-bound part of core that only tests need may reach into it.
    files: ['**/*.test.ts', 'core/testing/**'],
    rules: { 'max-lines': 'off' },
  },
  { files: ['server/settings/**', 'app/pages/**', 'app/app.vue'], rules: { 'vue/multi-word-component-names': 'off' } },
)
