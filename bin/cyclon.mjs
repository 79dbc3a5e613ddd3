#!/usr/bin/env node
// The command line runs the sources as they stand in a checkout.
import { register } from 'tsx/esm/api'

register()
const { run } = await import('../src/cli/index.ts')
await run(process.argv)
