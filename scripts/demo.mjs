import { build, ensurePackages, run } from './setup.mjs'

/** Installs if needed, builds, and serves Cyclon with its demo loops: `npm run demo`. */
ensurePackages()
build()
run('npx', ['next', 'start', '-p', process.env.PORT ?? '3000'])
