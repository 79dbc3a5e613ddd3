import { type Proof, promiseOf, proveFile } from '@/codecs'
import { exrRead, samplesOf16Bits } from '@/codecs/deep'
import type { EncodeJob } from '@/codecs/write'
import { type DeepPicture, rangeOf, shallow, sixteenBits } from '@/core/image'
import type { PassFile } from '@/core/output'
import { filesBack } from './files-back'

/** Reads the pictures of a pass back that hold numbers, each by a reader of its kind: every number is as it was drawn, and what they show closes. */
export async function proveDeep(
  files: readonly File[],
  bytes: number,
  pass: string,
  as: Exclude<PassFile, 'png'>,
  job: EncodeJob,
  progress: (frames: number) => Promise<void>,
): Promise<Proof> {
  const { deep } = job
  const measured = as === 'exr'
  let range: readonly [number, number] = [0, 1]
  let off = 0
  const drawn = async (n: number): Promise<DeepPicture> => {
    if (!deep) throw new Error('Numbers cannot be drawn here.')
    const picture = await deep(n, pass, measured)
    if (measured && n === 0) range = rangeOf(picture)
    return picture
  }
  const numbersIn = async (n: number): Promise<ArrayLike<number>> => {
    const read = new Uint8Array((await files[n]?.arrayBuffer()) ?? new ArrayBuffer(0))
    return measured ? (await exrRead(read)).data : samplesOf16Bits(read)
  }
  const differ = async (n: number, picture: DeepPicture) => {
    const own = measured ? picture.data : sixteenBits(picture)
    const found = await numbersIn(n)
    if (own.length !== found.length) off += own.length
    else for (let i = 0; i < own.length; i++) if (own[i] !== found[i]) off++
  }
  const frame = async (n: number) => {
    const picture = await drawn(n)
    await differ(n, picture)
    return shallow(picture, range)
  }
  const first = measured && files[0] ? await exrRead(new Uint8Array(await files[0].arrayBuffer())) : null
  const read = first
    ? {
        width: first.width,
        height: first.height,
        delaysMs: null,
        playsForever: null,
        frames: (async function* () {
          // The range of what is shown is that of the first one.
          await drawn(0)
          for (const file of files) yield shallow(await exrRead(new Uint8Array(await file.arrayBuffer())), range)
        })(),
      }
    : await filesBack(files, 'png-sequence')
  const promise = promiseOf(job, { frame, pass, as })
  const proof = await proveFile(bytes, read, promise, progress)
  const numbers = {
    what: measured ? '32-bit numbers' : '16-bit numbers',
    expected: 'as they were drawn',
    found: off === 0 ? 'as they were drawn' : `${off} are others`,
    holds: off === 0,
  }
  return { ...proof, lines: [...proof.lines, numbers], holds: proof.holds && numbers.holds }
}
