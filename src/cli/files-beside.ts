import { readdir, readFile, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { type Loop, LoopFileError } from '@/core/document'
import { type Asset, assetsIn, fileOf, keepAtHand } from '@/core/media'
import { ASSETS_FOLDER } from './assets-folder'
import { sha256Of } from './hash'

/** The folder beside a loop in which files that it names lie, whatever they are called. */
const ASSETS = 'assets'

/** The bytes of an asset, where a folder holds a file of its size and hash. */
async function inFolder(folder: string, { id, bytes }: Asset): Promise<Uint8Array<ArrayBuffer> | null> {
  for (const name of await readdir(folder).catch(() => [])) {
    const about = await stat(join(folder, name)).catch(() => null)
    if (!about?.isFile() || about.size !== bytes) continue
    const file = new Uint8Array(await readFile(join(folder, name)))
    if (sha256Of(file) === id) return file
  }
  return null
}

/**
 * Takes the files that a loop names to hand, from the folder `assets` beside it, from beside it, or from the folder that was named.
 * @throws LoopFileError where one of them is nowhere
 */
export async function bringFiles(loop: Loop, path: string): Promise<void> {
  const beside = dirname(path)
  const named = process.env[ASSETS_FOLDER]
  const folders = [...(named ? [named] : []), join(beside, ASSETS), beside]
  for (const medium of loop.media)
    for (const asset of assetsIn([medium])) {
      if (await fileOf(asset.id)) continue
      let file: Uint8Array<ArrayBuffer> | null = null
      for (const folder of folders) file ??= await inFolder(folder, asset)
      if (!file)
        throw new LoopFileError(
          `The file of “${medium.name}” is neither in it nor in the folder “${ASSETS}” beside it.`,
          'Name the folder that holds it with --assets, or save the loop as a project archive (.cyclon.zip).',
        )
      keepAtHand(new Map([[asset.id, new Blob([file], { type: asset.type })]]))
    }
}
