import { readdir, readFile, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { isZip, unzipProject } from '@/codecs'
import { ClipError, type FileClaims, MAX_CLAIMED_FRAMES, readClaims } from '@/codecs/claims'
import { withTrueMedia } from '@/codecs/true-media'
import { UnzipError, unzipped } from '@/codecs/unzip'
import { type Loop, parseProject, withFaces } from '@/core/document'
import type { Picture } from '@/core/image'
import { inOrder, missingNumbers } from '@/core/media/numbering'
import { decodeFrames, pictureInNode } from './decode'
import { bringFiles } from './files-beside'

/** Something to be checked: its claims, and its frames in order, as they are asked for. */
export interface Source {
  readonly file: string
  readonly format: string
  readonly claims: Omit<FileClaims, 'format'>
  readonly frames: () => AsyncGenerator<Picture>
}

/** The largest file that is read, bytes, and the most that a ZIP may unpack to. */
const MAX_FILE_BYTES = 512 * 1024 * 1024
const MAX_ZIP_BYTES = 1024 * 1024 * 1024

const isMoving = (name: string) => /\.(gif|apng|webp)$/i.test(name)
const isStill = (name: string) => /\.png$/i.test(name)

/**
 * Sources at a path: a file, a folder of numbered PNG files, or a ZIP of either.
 * @param rate frames per second of a sequence
 * @throws ClipError, or an error of the file system
 */
export async function sourcesAt(path: string, rate: number): Promise<Source[]> {
  const about = await stat(path)
  if (about.isDirectory()) {
    const names = (await readdir(path)).filter(isStill)
    if (names.length === 0)
      throw new ClipError('The folder holds no PNG files. Name one with numbered PNG pictures, such as 0001.png.')
    return [await sequence(path, names, (name) => readFile(join(path, name)), rate)]
  }
  if (about.size > MAX_FILE_BYTES)
    throw new ClipError(
      `The file has ${Math.round(about.size / 1e6)} MB; up to ${Math.round(MAX_FILE_BYTES / 1e6)} can be read.`,
    )
  const bytes = new Uint8Array(await readFile(path))
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) return zipped(path, bytes, rate)
  return [single(path, bytes)]
}

/** Whether a path is called as project files are. */
export const isLoopPath = (path: string): boolean => /\.json$|\.cyclon\.zip$/i.test(path)

/**
 * The loop in a file, with the files that it names: those that its archive holds, or that lie beside it.
 * @throws LoopFileError where it is no loop, or one of its files is nowhere; or an error of the file system
 */
export async function loopAt(path: string): Promise<Loop> {
  const bytes = await readFile(path)
  const told = await (isZip(bytes) ? unzipProject(bytes) : parseProject(bytes.toString('utf8')))
  await bringFiles(told, path)
  return withFaces(await withTrueMedia(told, pictureInNode))
}

function single(file: string, bytes: Uint8Array): Source {
  const claims = readClaims(bytes)
  return { file, format: claims.format, claims, frames: () => decodeFrames(bytes, claims) }
}

async function zipped(path: string, bytes: Uint8Array, rate: number): Promise<Source[]> {
  const unzip = () => {
    try {
      return unzipped(
        bytes,
        { mostBytes: MAX_ZIP_BYTES, mostFiles: MAX_CLAIMED_FRAMES },
        (name) => isMoving(name) || isStill(name),
      )
    } catch (error) {
      if (error instanceof UnzipError && error.why !== 'damaged')
        throw new ClipError(
          `The ZIP unpacks to more than ${Math.round(MAX_ZIP_BYTES / 1e6)} MB or ${MAX_CLAIMED_FRAMES} pictures. Unpack it first.`,
        )
      throw new ClipError('The ZIP is damaged or breaks off. Fetch or pack it again.')
    }
  }
  const files = unzip()
  const names = Object.keys(files)
  const folders = new Map<string, string[]>()
  for (const name of names.filter(isStill)) {
    const folder = name.includes('/') ? name.slice(0, name.lastIndexOf('/')) : ''
    folders.set(folder, [...(folders.get(folder) ?? []), name])
  }
  const found = names.filter(isMoving).map((name) => single(`${path}/${name}`, files[name] as Uint8Array))
  for (const [folder, stills] of folders)
    found.push(
      await sequence(folder ? `${path}/${folder}` : path, stills, async (name) => files[name] as Uint8Array, rate),
    )
  if (found.length === 0) throw new ClipError('The ZIP holds no GIF, APNG, WebP or PNG file.')
  return found
}

/** Numbered stills in the order of their numbers; gaps in the numbering are noted. */
async function sequence(
  file: string,
  names: readonly string[],
  read: (name: string) => Promise<Uint8Array>,
  rate: number,
): Promise<Source> {
  const ordered = inOrder(names)
  const missing = missingNumbers(ordered)
  const [first] = ordered
  const { width, height } = readClaims(new Uint8Array(await read(first ?? '')))
  return {
    file,
    format: 'png-sequence',
    claims: {
      width,
      height,
      delaysMs: ordered.map(() => 1000 / rate),
      plays: 0,
      notes: missing.length > 0 ? [`numbers ${missing.join(', ')} are missing`] : [],
    },
    async *frames() {
      for (const name of ordered) {
        const bytes = new Uint8Array(await read(name))
        const claims = readClaims(bytes)
        if (claims.width !== width || claims.height !== height)
          throw new ClipError(
            `${name} has ${claims.width} × ${claims.height} px, the first picture ${width} × ${height}. Give them one size.`,
          )
        for await (const picture of decodeFrames(bytes, claims)) {
          yield picture
          break
        }
      }
    },
  }
}
