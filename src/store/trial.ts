import { ClipError } from '@/codecs/claims'
import { clipClient, WorkerEnded } from '@/workers/page/clients'

/** Time between two questions to a worker, and between two looks for its answer. */
const TICK_MS = 5_000
/** A worker is stuck once this many ticks pass without an answer. Ticks are counted, not time: a computer that slept has missed one tick at most. */
const MAX_SILENT_TICKS = 12

/** Whether a file is a video container by its first bytes: MP4 or MOV (ISO/IEC 14496-12), but no AVIF; or WebM (RFC 8794). */
async function isContainer(file: File): Promise<boolean> {
  const head = new Uint8Array(await file.slice(0, 12).arrayBuffer())
  const type = String.fromCharCode(...head.subarray(4, 8))
  const brand = String.fromCharCode(...head.subarray(8, 11))
  return (type === 'ftyp' && brand !== 'avi') || (head[0] === 0x1a && head[1] === 0x45)
}

const tick = () => new Promise<false>((resolve) => setTimeout(() => resolve(false), TICK_MS))

/** Resolves once a worker is stuck. Rejects when asking it fails. */
async function stuck(ask: () => Promise<unknown>): Promise<'stuck'> {
  for (;;) {
    const answered = ask().then(() => true)
    for (let ticks = 0; !(await Promise.race([answered, tick()])); ) if (++ticks === MAX_SILENT_TICKS) return 'stuck'
    await tick()
  }
}

/**
 * Opens a video in a worker of its own before the worker that holds the open clip reads it. A damaged container can send its reader into an endless loop,
 * or use up the memory of a worker; then only the worker of the trial is lost. It is ended in any case.
 * @param signal aborts the trial
 * @throws ClipError when the worker is stuck or dies, or the trial is aborted. Any other fault of the file is reported when it is read.
 */
export async function tryVideo(file: File, signal: AbortSignal): Promise<void> {
  if (!(await isContainer(file))) return
  const client = clipClient()
  const aborted = new Promise<'aborted'>((resolve) => {
    if (signal.aborted) resolve('aborted')
    signal.addEventListener('abort', () => resolve('aborted'))
  })
  const opened = client
    .ask((service) => service.look(file))
    .then(
      () => 'opened',
      (error: unknown) => (error instanceof WorkerEnded ? 'died' : 'refused'),
    )
  // A worker that dies is reported by `opened`.
  const silent = stuck(() => client.ask((service) => service.here())).catch(() => opened)
  const outcome = await Promise.race([opened, silent, aborted]).finally(client.end)
  if (outcome === 'aborted') throw new ClipError('It was cancelled.')
  if (outcome === 'stuck')
    throw new ClipError(
      `${file.name} is damaged: reading its structure does not come to an end. Fetch or export it again.`,
    )
  if (outcome === 'died')
    throw new ClipError(`${file.name} needs more memory than the browser has. Cut it or make it smaller first.`)
}
