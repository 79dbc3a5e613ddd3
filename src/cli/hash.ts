import { createHash } from 'node:crypto'

/** The SHA-256 of texts or bytes, one after the other, as hexadecimal digits. */
export function sha256Of(...parts: readonly (string | Uint8Array)[]): string {
  const hash = createHash('sha256')
  for (const part of parts) hash.update(part)
  return hash.digest('hex')
}
