import js from '@eslint/js'
import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

export default tseslint.config(
  { ignores: ['**/dist/**', '**/dist-types/**', '**/node_modules/**', '.yodel/**', 'vitest.local.config.ts'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      'no-undef': 'off',
    },
  },
  // A test knows what it has just made.
  {
    files: ['**/*.ts', '**/*.tsx'],
    ignores: ['**/*.test.ts', '**/bench/**', '**/e2e/**'],
    rules: { '@typescript-eslint/no-non-null-assertion': 'error' },
  },
  {
    files: ['apps/web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error' },
  },
  // Core knows no framework, clock, randomness, network or disk.
  {
    files: ['packages/core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': ['error', { patterns: ['node:*', 'react', 'fastify', '@yodel/*'] }],
      'no-restricted-globals': [
        'error',
        'Date',
        'performance',
        'window',
        'document',
        'fetch',
        'process',
        'setTimeout',
        'crypto',
      ],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random' }],
    },
  },
)
