import { availableParallelism } from 'node:os'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    include: ['src/**/*.test.ts', 'demo/**/*.test.ts'],
    environment: 'node',
    setupFiles: ['src/core/testing/cases.ts', 'src/core/testing/faces.ts', 'src/core/testing/navigator.ts'],
    testTimeout: 120_000,
    // One would be left out where there are two.
    maxWorkers: availableParallelism(),
  },
})
