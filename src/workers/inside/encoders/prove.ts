import { unzipSync } from 'fflate'
import { decodeGif, type Proof, promiseOf, proveFile, type ReadBack } from '@/codecs'
import type { Encoded, EncodeJob } from '@/codecs/write'
import { ENDINGS, fileOfPass, passFolder } from '@/core/output'
import { reader } from '../clip-frames/reader'
import { filesBack } from './files-back'
import { proveDeep } from './prove-deep'

/** The frames of a sheet, cut out of it. */
async function sheetBack({ picture, cells }: NonNullable<Encoded['sheet']>): Promise<ReadBack> {
  const bitmap = await createImageBitmap(new Blob([picture], { type: 'image/png' }))
  const [{ width, height } = { width: 0, height: 0 }] = cells
  const read = reader(width, height)
  return {
    width,
    height,
    delaysMs: null,
    playsForever: null,
    frames: (function* () {
      for (const { x, y } of cells) yield read((context) => context.drawImage(bitmap, -x, -y))
      bitmap.close()
    })(),
  }
}

function gifBack(bytes: Uint8Array): ReadBack {
  const { delaysCs, ...file } = decodeGif(bytes)
  return { ...file, delaysMs: delaysCs.map((delay) => 10 * delay), frames: file.frames() }
}

/** The files of one pass in an archive. */
function filesOfPass(bytes: Uint8Array, folder: string): File[] {
  const files = unzipSync(bytes, { filter: ({ name }) => name.startsWith(folder) })
  return Object.keys(files).map((name) => new File([files[name] as Uint8Array<ArrayBuffer>], name.slice(folder.length)))
}

/** A file of one pass, as a decoder reads it that is not its encoder. */
export async function readBack(
  encoded: Encoded,
  { name, settings }: Pick<EncodeJob, 'name' | 'settings'>,
): Promise<ReadBack> {
  const { bytes, type, sheet } = encoded
  if (sheet) return sheetBack(sheet)
  if (settings.format === 'gif') return gifBack(bytes)
  return filesBack([new File([bytes], `${name}${ENDINGS[settings.format]}`, { type })], settings.format)
}

/** Reads a file back and holds it against the frames that were drawn for it. */
export async function prove(encoded: Encoded, job: EncodeJob): Promise<Proof> {
  const { timing, settings, draw, progress } = job
  const { format, passes } = settings
  const inPasses =
    format === 'png-sequence' && (passes.length > 1 || passes.some((pass) => fileOfPass(pass, settings) !== 'png'))
  const proof = async (back: ReadBack, pass: string, done: number) =>
    proveFile(encoded.bytes.length, back, promiseOf(job, { pass, frame: (n: number) => draw(n, pass) }), (n) =>
      progress((done + n) / (inPasses ? passes.length : 1)),
    )
  if (!inPasses) return proof(await readBack(encoded, job), passes[0] ?? 'picture', 0)
  const proofs: Proof[] = []
  for (const [i, pass] of passes.entries()) {
    const files = filesOfPass(encoded.bytes, passFolder(passes, i))
    const done = i * timing.frames.length
    const as = fileOfPass(pass, settings)
    const told = (n: number) => progress((done + n) / passes.length)
    proofs.push(
      as === 'png'
        ? await proof(await filesBack(files, format), pass, done)
        : await proveDeep(files, encoded.bytes.length, pass, as, job, told),
    )
  }
  const [first] = proofs as [Proof]
  const most = (of: (each: Proof) => number) => Math.max(...proofs.map(of))
  return {
    ...first,
    lines: proofs.flatMap(({ lines }, i) =>
      lines.map((line) => ({
        ...line,
        what: passes.length > 1 ? `${passFolder(passes, i).slice(3, -1)}: ${line.what}` : line.what,
      })),
    ),
    holds: proofs.every(({ holds }) => holds),
    meanError: most(({ meanError }) => meanError),
    worstError: most(({ worstError }) => worstError),
    alphaError: most(({ alphaError }) => alphaError),
  }
}
