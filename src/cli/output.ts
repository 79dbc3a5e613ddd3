import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises'
import { homedir } from 'node:os'
import { dirname, join, resolve } from 'node:path'
import { newId } from '@/core/id'
import { CommandError } from './command-error'
import { sha256Of } from './hash'

/** Files that a command may overwrite. */
export interface Overwriting {
  /** Files and folders that it reads: none of them, nor what lies in them, is written over. */
  readonly reads: readonly string[]
  /** Whether files may be replaced that this program did not write, or that were changed since. */
  readonly force: boolean
}

/** Names a file whatever it is called: links to it have the same. Null where it is not there. */
const fileAt = (path: string) =>
  stat(path).then(
    (about) => ({ name: `${about.dev} ${about.ino}`, isFolder: about.isDirectory() }),
    () => null,
  )

/** Where it is noted what this program wrote at a path: in the state folder of its user (XDG Base Directory Specification). */
const notePath = (path: string): string =>
  join(
    process.env.XDG_STATE_HOME || join(homedir(), '.local', 'state'),
    'cyclon',
    'written',
    sha256Of(resolve(path)).slice(0, 32),
  )

/** Whether a file is as this program wrote it last at its path. */
async function isOwn(path: string): Promise<boolean> {
  const note = await readFile(notePath(path), 'utf8').catch(() => null)
  return note !== null && note === sha256Of(await readFile(path))
}

/**
 * Whether a file may be written.
 * @throws CommandError where it is one that is read, a folder, or one that somebody else wrote
 */
export async function mayWrite(out: string, { reads, force }: Overwriting): Promise<void> {
  const there = await fileAt(out)
  if (!there) return
  if (there.isFolder) throw new CommandError(`${out}: It is a folder. Name a file in it.`)
  for (const path of reads) {
    const read = await fileAt(path)
    const inside = read?.isFolder ? (await readdir(path)).map((name) => join(path, name)) : []
    for (const each of [path, ...inside])
      if ((await fileAt(each))?.name === there.name)
        throw new CommandError(`${out}: It is what is read (${each}). Write to another file.`)
  }
  if (!force && !(await isOwn(out)))
    throw new CommandError(
      `${out}: There is a file already that was not written by this program, or was changed since. Say --force to replace it, or name another.`,
    )
}

/** A name beside a file with the same ending, which nobody else uses. */
export const nameBeside = (out: string, what: string): string => out.replace(/(\.[^./]+)?$/, `.${newId()}.${what}$1`)

/** Puts a finished file where it belongs, in one step. @throws CommandError as `mayWrite` does; then it stays where it is */
export async function moveIntoPlace(finished: string, out: string, writing: Overwriting): Promise<void> {
  await mayWrite(out, writing)
  const hash = sha256Of(await readFile(finished))
  await rename(finished, out)
  const note = notePath(out)
  // Where it cannot be noted, --force will be asked for.
  await mkdir(dirname(note), { recursive: true })
    .then(() => writeFile(note, hash))
    .catch(() => {})
}

/** Writes a file whole or not at all. @throws CommandError as `mayWrite` does */
export async function writeWhole(out: string, bytes: Uint8Array | string, writing: Overwriting): Promise<void> {
  await mayWrite(out, writing)
  const unfinished = nameBeside(out, 'unfinished')
  try {
    await writeFile(unfinished, bytes)
    await moveIntoPlace(unfinished, out, writing)
  } finally {
    await rm(unfinished, { force: true })
  }
}
