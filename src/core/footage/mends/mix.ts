import { byteOfLight, LINEAR_LIGHT, type Picture, wordsOf } from '../../image'
import { type Smoothed, withGrain } from '../look/grain'
import { eachPatch, SEVERAL, shownOf } from '../regions/patches'
import type { Where } from '../steady/laid'
import { keepContrast } from './contrast'
import { morphed } from './flow'
import type { Mixed, MixPart, Patched, PlanFrame } from './plan'

/** Mean linear red, green and blue of a picture, clear pixels left out by their alpha. */
export function meanLight({ data }: Picture): [number, number, number] {
  const sums: [number, number, number] = [0, 0, 0]
  let weight = 0
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3]
    weight += alpha
    for (let c = 0; c < 3; c++) sums[c] += alpha * LINEAR_LIGHT[data[i + c]]
  }
  return weight > 0 ? (sums.map((sum) => sum / weight) as [number, number, number]) : sums
}

/** The picture of a frame of the source; no more of it need be there than is wanted. */
export type SourceOf = (n: number, where?: Where) => Picture

/**
 * One mended frame: its pieces, joined where its map says; of each, its parts mixed in linear light with premultiplied alpha, or a morph of both. With `keepVariance` they
 * keep their contrast, see contrast.ts; with `grain`, as much of it is laid anew as mixing has smoothed.
 * @param source the picture of a source frame, all of one size
 */
export const mixFrame = (frame: PlanFrame, source: SourceOf): Picture =>
  'map' in frame ? joined(frame, source) : mixed(frame, source)

/** Pictures side by side as a map says, mixed in linear light where its borders are soft. */
function joined({ map, pieces }: Patched, source: SourceOf): Picture {
  const [first] = pieces
  if (!first) throw new RangeError('a frame is made of something')
  const { width, height } = source(first.parts[0].frame)
  const labels = shownOf(map, width, height)
  // Of each no more is mixed than is shown.
  const pictures = pieces.map((piece, label) =>
    mixed(piece, source, (p) => labels[p] === label || labels[p] === SEVERAL),
  )
  const data = new Uint8ClampedArray(width * height * 4)
  const words = new Uint32Array(data.buffer)
  const sources = pictures.map(wordsOf)
  for (let p = 0; p < words.length; p++) {
    const label = labels[p]
    if (label !== SEVERAL) words[p] = sources[label]?.[p]
  }
  const light = new Float64Array(4)
  let soft = -1
  let left = 1
  eachPatch(map, width, height, (p, label, weight) => {
    if (weight === 1) return
    if (p !== soft) {
      soft = p
      left = 1
      light.fill(0)
    }
    const own = pictures[label].data
    const share = (weight * own[4 * p + 3]) / 255
    for (let c = 0; c < 3; c++) light[c] += share * LINEAR_LIGHT[own[4 * p + c]]
    light[3] += share
    left -= weight
    const alpha = light[3]
    if (left > 1e-9 || alpha <= 0) return
    for (let c = 0; c < 3; c++) data[4 * p + c] = byteOfLight(light[c] / alpha)
    data[4 * p + 3] = 255 * alpha
  })
  return { width, height, data }
}

/** @param where pixels are wanted; everywhere where it is left out */
function mixed(frame: Mixed, source: SourceOf, where?: Where): Picture {
  const { parts, keepVariance, morph, grain } = frame
  const [from, to] = parts
  if (!from) throw new RangeError('a frame is made of something')
  if (!to && isPlain(from)) return source(from.frame, where)
  const made =
    morph && to
      ? morphed(inGain(source(from.frame), from), inGain(source(to.frame), to), to.weight)
      : blended(parts, keepVariance, source, where)
  return grain
    ? withGrain(
        made,
        grain,
        parts.map((part) => part.frame),
      )
    : made.picture
}

const isPlain = ({ gain }: MixPart): boolean => gain.every((each) => each === 1)

/** A picture in the light of a part. */
const inGain = (picture: Picture, part: MixPart): Picture =>
  isPlain(part) ? picture : blended([{ ...part, weight: 1 }], false, () => picture).picture

/** Pictures mixed in linear light, with premultiplied alpha. */
function blended(parts: readonly MixPart[], keepVariance: boolean, source: SourceOf, where?: Where): Smoothed {
  const pictures = parts.map((part) => ({ ...part, picture: source(part.frame, where) }))
  const { width, height } = pictures[0].picture
  const count = width * height
  const values = new Float32Array(3 * count)
  const alpha = new Float32Array(count)
  for (let p = 0; p < count; p++) {
    if (where && !where(p)) continue
    let r = 0
    let g = 0
    let b = 0
    let a = 0
    for (const { picture, weight, gain } of pictures) {
      const share = (weight * picture.data[4 * p + 3]) / 255
      a += share
      r += share * LINEAR_LIGHT[picture.data[4 * p]] * gain[0]
      g += share * LINEAR_LIGHT[picture.data[4 * p + 1]] * gain[1]
      b += share * LINEAR_LIGHT[picture.data[4 * p + 2]] * gain[2]
    }
    if (a <= 0) continue
    alpha[p] = a
    values[3 * p] = byteOfLight(r / a)
    values[3 * p + 1] = byteOfLight(g / a)
    values[3 * p + 2] = byteOfLight(b / a)
  }
  const left = new Float32Array(count).fill(parts.reduce((sum, { weight }) => sum + weight * weight, 0))
  if (keepVariance && parts.length > 1) {
    const stretch = keepContrast(
      { width, height, values, alpha },
      pictures.map((part) => {
        const { data } = part.picture
        const own = isPlain(part)
          ? (value: number) => value
          : (value: number, c: number) => byteOfLight(LINEAR_LIGHT[value] * part.gain[c])
        return { weight: part.weight, valueAt: (p, c) => own(data[4 * p + c], c) }
      }),
    )
    for (let p = 0; p < count; p++) left[p] *= stretch[p] ** 2
  }
  const data = new Uint8ClampedArray(4 * count)
  for (let p = 0; p < count; p++) {
    if (alpha[p] <= 0) continue
    for (let c = 0; c < 3; c++) data[4 * p + c] = values[3 * p + c]
    data[4 * p + 3] = 255 * alpha[p]
  }
  return { picture: { width, height, data }, left }
}
