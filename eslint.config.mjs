import angular from 'angular-eslint';
import regexp from 'eslint-plugin-regexp';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '**/.angular/**', '.local/**', 'test-results/**', 'packages/core/src/document/generated/**'] },
  {
    files: ['**/*.ts'],
    extends: [...tseslint.configs.recommended],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/consistent-type-imports': 'error',
      eqeqeq: ['error', 'always'],
      'no-console': 'off',
      'prefer-const': 'error',
    },
  },
  {
    // With types: a promise that nobody waits for hides its failure.
    files: ['packages/*/src/**/*.ts', 'apps/*/src/**/*.ts'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { arguments: false, attributes: false, inheritedMethods: false } }],
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/no-unnecessary-type-assertion': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': 'error',
      'max-lines-per-function': ['warn', { max: 80, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    // Text that strangers wrote goes through these: an expression that backtracks may take longer than anyone waits.
    files: ['packages/*/src/**/*.ts', 'apps/*/src/**/*.ts'],
    plugins: { regexp },
    rules: { 'regexp/no-super-linear-backtracking': ['error', { report: 'potential' }] },
  },
  {
    files: ['packages/*/src/**/*.ts', 'apps/{cli,server}/src/**/*.ts'],
    rules: { 'regexp/no-super-linear-move': ['error', { report: 'potential' }] },
  },
  {
    // The core runs in browsers, workers and Node alike: it may use none of their own things, no clock and no chance.
    files: ['packages/core/src/**/*.ts'],
    rules: {
      'no-restricted-globals': ['error', 'window', 'document', 'navigator', 'process', 'Buffer', 'setTimeout', 'fetch', 'Date'],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random', message: 'Results must be the same every time: use seeded hashing.' }],
      'no-restricted-imports': ['error', { patterns: ['node:*', 'fs', 'path', '@angular/*', 'three', '@filaxis/*'] }],
      'max-lines': ['error', { max: 400, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    files: ['apps/web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: { '@angular-eslint/prefer-on-push-component-change-detection': 'error' },
  },
  {
    files: ['apps/web/src/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: {
      '@angular-eslint/template/click-events-have-key-events': 'off',
      '@angular-eslint/template/interactive-supports-focus': 'off',
      '@angular-eslint/template/label-has-associated-control': ['error', { controlComponents: ['fx-number', 'fx-text', 'fx-choice'] }],
    },
  },
);
