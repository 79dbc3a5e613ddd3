#!/usr/bin/env node
// The command line is bundled when the packages are installed (scripts/build-cli.mjs).
import { existsSync } from 'node:fs'
import { createRequire } from 'node:module'

const bundle = new URL('../dist/cyclon.cjs', import.meta.url)
if (existsSync(bundle)) await createRequire(import.meta.url)(bundle.pathname).run(process.argv)
else {
  process.stderr.write('The command line has not been built: run `npm run build:cli` in the folder of Cyclon first.\n')
  process.exitCode = 2
}
