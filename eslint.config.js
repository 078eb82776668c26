import js from '@eslint/js'
import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

/**
 * The floors of the web application, from the roof down. What is on one imports only from those below it, and from
 * its own; features (pages) never import each other. docs/architecture.md says what lives on each.
 */
const FLOORS = [
  ['features'],
  ['panes'],
  ['sheet'],
  ['actions'],
  ['commands'],
  ['session'],
  ['document'],
  ['engine', 'picture'],
  ['api'],
  ['ui'],
]
const WEB = 'apps/web/src'

const floorRules = FLOORS.flatMap((rooms, level) => {
  const above = FLOORS.slice(0, level).flat()
  const beside = rooms.includes('features') ? ['../*/**', '!../../**'] : []
  const group = above.flatMap((room) => [`**/../${room}/**`, `../**/${room}/**`])
  if (group.length + beside.length === 0) return []
  const message = `${rooms.join(', ')} may only import from what lies below: see docs/architecture.md, “Floors”.`
  return {
    files: rooms.map((room) => `${WEB}/${room}/**/*.{ts,tsx}`),
    ignores: ['**/*.test.ts', '**/*.test.tsx'],
    rules: { 'no-restricted-imports': ['error', { patterns: [{ group: [...group, ...beside], message }] }] },
  }
})

const TYPED = {
  '@typescript-eslint/no-floating-promises': ['error', { ignoreVoid: true }],
  '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
  '@typescript-eslint/await-thenable': 'error',
  '@typescript-eslint/switch-exhaustiveness-check': 'error',
  '@typescript-eslint/no-for-in-array': 'error',
  '@typescript-eslint/restrict-plus-operands': 'error',
}

export default tseslint.config(
  {
    ignores: ['**/dist/**', '**/dist-types/**', '**/node_modules/**', '.yodel/**', 'vitest.local.config.ts'],
  },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      'no-undef': 'off',
    },
  },
  // Rules that need types, wherever a project holds the file.
  ...[
    ['packages/core', ['packages/core/src/**/*.ts']],
    ['apps/server', ['apps/server/src/**/*.ts']],
    ['apps/web', ['apps/web/src/**/*.{ts,tsx}']],
  ].map(([project, files]) => ({
    files,
    ignores: project === 'apps/web' ? [] : ['**/*.test.ts', '**/test/**'],
    languageOptions: {
      parserOptions: { project: `${project}/tsconfig.json`, tsconfigRootDir: import.meta.dirname },
    },
    rules: TYPED,
  })),
  // A test knows what it has just made.
  {
    files: ['**/*.ts', '**/*.tsx'],
    ignores: ['**/*.test.ts', '**/bench/**', '**/e2e/**'],
    rules: { '@typescript-eslint/no-non-null-assertion': 'error' },
  },
  {
    files: [`${WEB}/**/*.{ts,tsx}`],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  ...floorRules,
  // Core knows no framework, clock, randomness, network or disk; and no rate but the one in time/.
  {
    files: ['packages/core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': ['error', { patterns: ['node:*', 'react', 'fastify', '@yodel/*'] }],
      'no-restricted-globals': [
        'error',
        ...['Date', 'performance', 'window', 'document', 'fetch', 'process', 'setTimeout', 'crypto'],
      ],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random' }],
    },
  },
  {
    files: ['packages/core/src/**/*.ts', 'apps/*/src/**/*.{ts,tsx}'],
    ignores: ['**/*.test.ts', 'packages/core/src/time/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'Literal[value=48000]',
          message: 'The sample rate is SAMPLE_RATE, and seconds become samples by samplesIn().',
        },
      ],
    },
  },
)
