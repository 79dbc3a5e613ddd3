import { ClipError } from '@/codecs/claims'
import { clipClient } from '@/workers/clients'

/** A worker that has said nothing for so long has been caught by a file, ms: it answers between two reads, however slow they are. */
const SILENCE_MS = 60_000
const ASKED_EVERY_MS = 5_000

/** Whether a file begins as those do that are read by a library of containers: MP4 and MOV (ISO/IEC 14496-12), WebM (RFC 8794). */
async function isContainer(file: File): Promise<boolean> {
  const head = new Uint8Array(await file.slice(0, 12).arrayBuffer())
  const type = String.fromCharCode(...head.subarray(4, 8))
  const brand = String.fromCharCode(...head.subarray(8, 11))
  return (type === 'ftyp' && brand !== 'avi') || (head[0] === 0x1a && head[1] === 0x45)
}

/** Rejects once `answer` has been asked for and has not come for too long; never where it goes on coming. */
async function silence(answer: () => Promise<unknown>): Promise<never> {
  for (;;) {
    let late: ReturnType<typeof setTimeout> | undefined
    const tooLate = new Promise<never>((_, reject) => {
      late = setTimeout(() => reject(new Error('There was no answer.')), SILENCE_MS)
    })
    await Promise.race([answer(), tooLate]).finally(() => clearTimeout(late))
    await new Promise((resolve) => setTimeout(resolve, ASKED_EVERY_MS))
  }
}

let cancel = () => {}
/** Gives up what is being tried. */
export const cancelTrial = (): void => cancel()

/**
 * Opens a video in a worker of its own first. Its numbers may send what reads it round without an end, and then that worker is ended; the one that holds
 * the open clip never meets such a file.
 * @throws ClipError where that is so, or it was cancelled. What is wrong otherwise is said where the file is read.
 */
export async function tryVideo(file: File): Promise<void> {
  if (!(await isContainer(file))) return
  const client = clipClient()
  const looked = client.ask((service) => service.look(file)).catch(() => {})
  const caught = silence(() => client.ask((service) => service.here()))
  caught.catch(() => {})
  const cancelled = new Promise<never>((_, reject) => {
    cancel = () => reject(new ClipError('It was cancelled.'))
  })
  try {
    await Promise.race([looked, caught, cancelled])
  } catch (error) {
    if (error instanceof ClipError) throw error
    throw new ClipError(
      `${file.name} is damaged: its numbers have whoever reads it go on without an end. Fetch or export it again.`,
    )
  } finally {
    cancel = () => {}
    client.end()
  }
}
