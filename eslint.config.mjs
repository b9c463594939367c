import { defineConfig, globalIgnores } from 'eslint/config';
import nextVitals from 'eslint-config-next/core-web-vitals';
import prettier from 'eslint-config-prettier/flat';
import jsxA11y from 'eslint-plugin-jsx-a11y';
import tseslint from 'typescript-eslint';

const TYPED = ['**/*.{ts,tsx}'];
const REACT = ['src/{ui,app}/**/*.{ts,tsx}', 'tests/**/*.tsx'];

export default defineConfig([
  globalIgnores(['.next/**', '.data/**', 'node_modules/**', 'test-results/**', 'playwright-report/**', 'next-env.d.ts']),
  // What is not React is not put through its compiler: that takes longer than all other rules together.
  ...nextVitals.map((config) => (Object.keys(config).join() === 'ignores' ? config : { ...config, files: REACT })),
  ...tseslint.configs.recommendedTypeChecked.map((config) => ({ ...config, files: TYPED })),
  {
    files: TYPED,
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true, requireDefaultForNonUnion: true }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true }],
      'no-param-reassign': 'error',
      'max-params': ['error', 7],
      'no-warning-comments': ['error', { terms: ['todo', 'fixme', 'hack', 'xxx'], location: 'start' }],
      'no-restricted-syntax': [
        'error',
        { selector: 'ExportAllDeclaration[exported=null]', message: 'List what an index.ts exports.' },
        { selector: 'TSEnumDeclaration', message: 'Use a union of string literals.' },
        { selector: 'TSAsExpression > TSAsExpression', message: 'No double casts: validate at the border instead.' },
      ],
      // Positions are measured, and stores outside React are subscribed to, in effects by design.
      'react-hooks/set-state-in-effect': 'off',
    },
  },
  {
    files: ['src/core/**/*.ts', 'src/ui/state/**/*.ts', 'src/server/**/*.ts', 'src/kernel/**/*.ts', 'src/workers/**/*.ts', 'src/cli/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'max-lines': ['error', { max: 430, skipBlankLines: true, skipComments: true }],
      'max-lines-per-function': ['error', { max: 90, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', 'Date', 'console', 'performance', 'crypto', 'setTimeout'],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random', message: 'Core is a function of its inputs.' }],
    },
  },
  { files: ['{src,tests}/**/*.tsx'], rules: jsxA11y.flatConfigs.strict.rules },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  prettier,
]);
