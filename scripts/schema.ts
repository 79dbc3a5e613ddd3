import { writeFileSync } from 'node:fs'
import { loopJsonSchema } from '../src/core/document'

/** Writes docs/loop.schema.json, the JSON Schema of a project file: `npm run docs:schema`. */
writeFileSync('docs/loop.schema.json', `${JSON.stringify(loopJsonSchema(), null, 2)}\n`)
