import { readFile } from 'node:fs/promises'
import { strFromU8 } from 'fflate'
import { readClaims } from '@/codecs/claims'
import { MAX_OWN_BYTES, unzipped } from '@/codecs/unzip'
import { type Loop, LoopFileError, parseProject, withFaces } from '@/core/document'
import { newLoop } from '@/core/edit'
import type { Picture } from '@/core/image'
import { isVector, PLAIN_SETTINGS, timingIn, withFormat } from '@/core/output'
import { CommandError } from './command-error'
import { decodeFrames } from './decode'
import { LOOP_OF_PART, type LoopPart, PART, partSchema } from './parts'
import { formatOf, stemOf, writeProven } from './write'

interface ReadPart {
  readonly path: string
  readonly part: LoopPart
  readonly files: Record<string, Uint8Array>
}

async function readPart(path: string): Promise<ReadPart> {
  const bytes = await readFile(path).catch(() => {
    throw new CommandError(`${path}: There is no such file, or it may not be read.`)
  })
  try {
    const files = unzipped(bytes, { mostBytes: MAX_OWN_BYTES })
    return { path, part: partSchema.parse(JSON.parse(strFromU8(files[PART] ?? new Uint8Array()))), files }
  } catch {
    throw new CommandError(
      `${path}: It is no part of a loop, as \`cyclon render --frames\` writes one, or it is damaged.`,
    )
  }
}

/** The loop that a part is of; one without layers where the part is of a version that did not keep it. @throws CommandError where it is damaged */
async function loopOf(
  { path, files }: ReadPart,
  about: Pick<Loop, 'name' | 'width' | 'height' | 'rate' | 'length'>,
): Promise<Loop> {
  const kept = files[LOOP_OF_PART]
  if (!kept) return newLoop({ ...about, kind: 'loader', background: null }, 'joined')
  try {
    return await withFaces(await parseProject(strFromU8(kept)))
  } catch (error) {
    if (error instanceof LoopFileError) throw new CommandError(`${path}: ${error.message} ${error.advice}`)
    throw error
  }
}

/** Puts parts of one loop together to a file. @throws CommandError where they are not one whole loop */
export async function joinParts(
  paths: readonly string[],
  { out, repeats, quality, force = false }: { out: string; repeats: number; quality: number | null; force?: boolean },
): Promise<string> {
  const format = formatOf(out)
  if (isVector(format)) throw new CommandError(`Parts are pictures: write them to another file than ${out}.`)
  const parts = await Promise.all(paths.map(readPart))
  const [first] = parts as [ReadPart]
  const { state, program, width, height, length, rate, transparent, loop: name } = first.part
  const places = new Map<number, Uint8Array>()
  for (const { path, part, files } of parts) {
    if (part.state !== state || part.width !== width || part.height !== height)
      throw new CommandError(`${path} is a part of another loop, state or size than ${first.path}.`)
    if (part.program !== program)
      throw new CommandError(
        `${path} was drawn by another version of this program than ${first.path}. Render it again.`,
      )
    for (let frame = part.from; frame <= part.to; frame++) {
      const file = files[`${String(frame).padStart(5, '0')}.png`]
      if (!file) throw new CommandError(`${path} says that it has frame ${frame}, and does not.`)
      if (places.has(frame)) throw new CommandError(`Frame ${frame} is in more than one part; ${path} is one of them.`)
      places.set(frame, file)
    }
  }
  const missing = Array.from({ length }, (_, n) => n).filter((n) => !places.has(n))
  if (missing.length > 0)
    throw new CommandError(
      `${missing.length} of ${length} frames are in no part: ${missing.slice(0, 8).join(', ')}${missing.length > 8 ? ' …' : ''}`,
    )
  const settings = {
    ...withFormat(PLAIN_SETTINGS, format),
    repeats,
    ...(quality === null ? {} : { lossless: false, quality }),
  }
  const timing = timingIn({ length, rate }, settings)
  const loop = await loopOf(first, { name, width, height, rate, length })
  const job = {
    loop,
    name: stemOf(out),
    width,
    height,
    timing,
    rate,
    settings,
    transparent,
    draw: async (n: number): Promise<Picture> => {
      // A file of fewer frames than the loop shows those that are nearest.
      const file = places.get(Math.round(timing.frames[n] as number) % length) as Uint8Array
      for await (const picture of decodeFrames(file, readClaims(file))) return picture
      throw new CommandError(`The picture of frame ${n} cannot be read. Render that part again.`)
    },
  }
  const { encoded, proof } = await writeProven(out, job, { reads: paths, force })
  return `${out}: ${parts.length} parts, ${timing.frames.length} frames, ${(encoded.bytes.length / 1000).toFixed(1)} kB, proven: ${proof?.seam.verdict.replaceAll('-', ' ')}`
}
