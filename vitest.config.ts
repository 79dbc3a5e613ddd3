import { availableParallelism, tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

/** Tests of the floors that keep no state: modules are loaded once for many files of them, which saves a third of the time. */
const STATELESS = ['src/{core,codecs,render,offline,cli}/**/*.test.ts', 'demo/**/*.test.ts']
/** Those among them that load modules anew, put others in their place, or take from a package what it exports to a runner alone. */
const BY_THE_RUNNER = [
  'src/core/text/faces.test.ts',
  'src/codecs/project.test.ts',
  'src/render/prepare.test.ts',
  'src/cli/decode.test.ts',
  'src/cli/files-beside.test.ts',
  'src/cli/output.test.ts',
]

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    environment: 'node',
    setupFiles: [
      'src/core/testing/cases.ts',
      'scripts/law-counts.ts',
      'src/core/testing/faces.ts',
      'src/core/testing/navigator.ts',
    ],
    // What the command line notes of files that it wrote does not come into the home of whoever tests.
    env: { XDG_STATE_HOME: join(tmpdir(), 'cyclon-test-state') },
    // No test depends on how fast the machine is: these only end what will never come.
    testTimeout: 1_800_000,
    hookTimeout: 1_800_000,
    // One would be left out where there are two.
    maxWorkers: availableParallelism(),
    projects: [
      {
        extends: true,
        test: {
          name: 'stateless',
          include: STATELESS,
          exclude: BY_THE_RUNNER,
          isolate: false,
          // Imported by Node itself, since a runner's modules read each name of another module through a getter: a quarter of the time of kernels.
          execArgv: ['--import', 'tsx'],
          experimental: { viteModuleRunner: false },
        },
      },
      { extends: true, test: { name: 'alone', include: ['src/**/*.test.ts'], exclude: STATELESS } },
      { extends: true, test: { name: 'by the runner', include: BY_THE_RUNNER } },
    ],
  },
})
