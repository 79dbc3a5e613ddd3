import { readFile } from 'node:fs/promises'
import { dirname, join, relative } from 'node:path'
import * as z from 'zod/mini'
import { CommandError } from './command-error'
import { sha256Of } from './hash'
import { writeWhole } from './output'
import type { Rendered } from './render'

/** Files written in one run, with every proof; a later run recognises them by it. */
const entrySchema = z.object({
  /** From the folder of the manifest on. */
  file: z.string(),
  loop: z.string(),
  /** Names the loop in its state, and how it was to be written. */
  state: z.string(),
  settings: z.string(),
  width: z.number(),
  height: z.number(),
  frames: z.number(),
  bytes: z.number(),
  sha256: z.string(),
  proof: z.unknown(),
})
export type ManifestEntry = z.infer<typeof entrySchema>

/** An entry that stands by itself. @throws where the text is none */
export const readEntry = (text: string): ManifestEntry => entrySchema.parse(JSON.parse(text))

const manifestSchema = z.object({
  format: z.literal('cyclon-manifest'),
  files: z.array(entrySchema),
  failed: z.array(z.object({ file: z.string(), loop: z.string(), problem: z.string() })),
})
export type Manifest = z.infer<typeof manifestSchema>

export const emptyManifest = (): Manifest => ({ format: 'cyclon-manifest', files: [], failed: [] })

/** The manifest at a path; an empty one where there is none. @throws CommandError where something else lies there */
export async function readManifest(path: string): Promise<Manifest> {
  const text = await readFile(path, 'utf8').catch(() => null)
  if (text === null) return emptyManifest()
  try {
    return manifestSchema.parse(JSON.parse(text))
  } catch {
    throw new CommandError(
      `${path}: It is no manifest of \`cyclon render\`, or it is damaged. Move it away, or say --manifest.`,
    )
  }
}

/** Writes a manifest whole or not at all: a run that breaks off leaves the one before. Read what lies there first: it may be something else. */
export async function writeManifest(path: string, manifest: Manifest): Promise<void> {
  const files = manifest.files.toSorted((a, b) => (a.file < b.file ? -1 : 1))
  await writeWhole(path, `${JSON.stringify({ ...manifest, files }, null, 1)}\n`, { reads: [], force: true })
}

/** The entry of a file that has been written. */
export const manifestEntry = (
  manifest: string,
  out: string,
  about: Pick<ManifestEntry, 'loop' | 'state' | 'settings'>,
  { width, height, frames, bytes, sha256, proof }: Rendered,
): ManifestEntry => ({ file: relative(dirname(manifest), out), ...about, width, height, frames, bytes, sha256, proof })

/** Counts the proven files in words, and apart from them the vectors that were not read back, since no Chromium is installed that shows them. */
export function countWords(files: readonly ManifestEntry[], all: number): string {
  const proven = files.filter(({ proof }) => proof !== null).length
  const vectors = files.length - proven
  return `${proven} of ${all} files written and proven${vectors > 0 ? `, ${vectors} written as vectors, which were not read back` : ''}`
}

/** Whether a file is there as its entry says, byte for byte. */
export async function isThere(manifest: string, { file, bytes, sha256 }: ManifestEntry): Promise<boolean> {
  const found = await readFile(join(dirname(manifest), file)).catch(() => null)
  return found !== null && found.length === bytes && sha256Of(found) === sha256
}
