import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const source = (place: string): string => fileURLToPath(new URL(place, import.meta.url))

export default defineConfig({
  // Tests run on the sources of our own packages, not on what was built from them.
  resolve: {
    alias: {
      '@yodel/core': source('packages/core/src/index.ts'),
      '@yodel/demo': source('demo/src/index.ts'),
    },
  },
  test: {
    include: [
      'packages/**/src/**/*.test.ts',
      'apps/**/src/**/*.test.ts',
      'demo/src/**/*.test.ts',
      'e2e/**/*.test.ts',
    ],
    globalSetup: 'e2e/support/dropSeed.ts',
    exclude: ['**/dist/**', '**/node_modules/**'],
    // One file after the other: what runs in real time must not share two cores with ffmpeg.
    fileParallelism: false,
    testTimeout: 60_000,
    // How long what is looked at again and again may take to come: a busy machine is no mistake.
    expect: { poll: { timeout: 20_000 } },
    hookTimeout: 180_000,
  },
})
