import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { sha256Of } from './hash'

let known: string | null = null

/**
 * Names the program by its own bytes, so that what one version drew is not put together with what another did; `source` where it is not run from
 * its bundle.
 */
export function programName(): string {
  if (known !== null) return known
  try {
    const bundle = readFileSync(join(import.meta.dirname, 'cyclon.cjs'))
    known = sha256Of(bundle).slice(0, 16)
  } catch {
    known = 'source'
  }
  return known
}
