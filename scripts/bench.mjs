import { build, ensureChromium, ensurePackages, run } from './setup.mjs'

/** Measures, on a fresh clone too: `npm run bench`. */
ensurePackages()
ensureChromium()
build()
run('npx', ['tsx', 'bench/run.ts'])
