import { build, ensureChromium, ensureLookers, ensurePackages, run } from './setup.mjs'

/** Measures, on a fresh clone too: `npm run bench`. */
ensurePackages()
ensureChromium()
ensureLookers()
build()
run('npx', ['tsx', 'bench/run.ts', ...process.argv.slice(2)])
