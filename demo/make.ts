import { mkdirSync, writeFileSync } from 'node:fs'
import { formatLoop } from '../src/core/document'
import { DEMO_LOOPS } from './build'

/** Writes the demo loops to demo/loops: `npm run demo:make`. */
const folder = new URL('./loops/', import.meta.url)
mkdirSync(folder, { recursive: true })
for (const [name, build] of Object.entries(DEMO_LOOPS))
  writeFileSync(new URL(`${name}.cyclon.json`, folder), formatLoop(build()))
