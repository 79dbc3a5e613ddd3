import { strToU8, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { namesInZip, UnzipError, unzipped } from './unzip'

const FILES = {
  'loop.json': strToU8('{"name":"Quay"}'.repeat(40)),
  'media/pier': strToU8('pier'),
  'media/lamp': strToU8('lamp'),
}
const ZIP = zipSync(FILES)
const BOUNDS = { mostBytes: 10_000 }

/** Where the entry n of the directory begins (APPNOTE 6.3.10, 4.3.12), and where its end does (4.3.16). */
function placesIn(zip: Uint8Array): { readonly entries: readonly number[]; readonly end: number } {
  const view = new DataView(zip.buffer)
  const entries: number[] = []
  for (let at = 0; at + 4 <= zip.length; at++) if (view.getUint32(at, true) === 0x02014b50) entries.push(at)
  return { entries, end: zip.length - 22 }
}
const PLACES = placesIn(ZIP)

/** The archive with a number of its directory changed. */
function saying(at: number, value: number): Uint8Array {
  const copy = ZIP.slice()
  new DataView(copy.buffer).setUint32(at, value, true)
  return copy
}
/** Why an archive is not unpacked; null where it is. */
function refusal(zip: Uint8Array, bounds = BOUNDS): string | null {
  try {
    unzipped(zip, bounds)
    return null
  } catch (error) {
    expect(error).toBeInstanceOf(UnzipError)
    return (error as UnzipError).why
  }
}
const [first = 0] = PLACES.entries

describe('an archive', () => {
  it('gives its files by their names, those that are wanted', () => {
    expect(unzipped(ZIP, BOUNDS)).toEqual(FILES)
    expect(Object.keys(unzipped(ZIP, BOUNDS, (name) => name.startsWith('media/')))).toEqual([
      'media/pier',
      'media/lamp',
    ])
    expect(namesInZip(ZIP)).toEqual(Object.keys(FILES))
  })
  it('keeps to the bounds for what is wanted', () => {
    expect(refusal(ZIP, { mostBytes: 600 })).toBe('too large')
    expect(refusal(ZIP, { ...BOUNDS, mostBytesOf: (name: string) => (name === 'loop.json' ? 10 : 100) } as never)).toBe(
      'too large',
    )
    expect(refusal(ZIP, { ...BOUNDS, mostFiles: 2 } as never)).toBe('too many')
    expect(
      refusal(zipSync(Object.fromEntries(Array.from({ length: 9 }, (_, i) => [String(i), strToU8('x')])))),
    ).toBeNull()
  })
  it('whose packed bytes cannot become what it promises is refused before room is made for it', () => {
    const before = process.memoryUsage().arrayBuffers
    expect(refusal(saying(first + 24, 400_000_000), { mostBytes: 500_000_000 })).toBe('damaged')
    expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(50e6)
  })
  it('whose files share their bytes is refused: a few of them would unpack to any size', () => {
    const own = 900_000
    const one = zipSync({ a: new Uint8Array(own) })
    const { entries, end } = placesIn(one)
    const [entry = 0] = entries
    const count = 2000
    const many = new Uint8Array(end + 47 * (count - 1) + 22)
    many.set(one.subarray(0, end))
    for (let n = 1; n < count; n++) many.set(one.subarray(entry, end), end + 47 * (n - 1))
    many.set(one.subarray(end), many.length - 22)
    const view = new DataView(many.buffer)
    view.setUint16(many.length - 14, count, true)
    view.setUint16(many.length - 12, count, true)
    expect(namesInZip(many)).toHaveLength(count)
    expect(refusal(many, { mostBytes: 4e9 })).toBe('damaged')
  })
  it('that says it has four thousand million files is refused after as many as any has', () => {
    // The same with an end for 64 bits (4.3.14), which counts by eight bytes.
    const end = PLACES.end
    const wide = new Uint8Array(end + 56 + 20 + 22)
    wide.set(ZIP.subarray(0, end))
    const view = new DataView(wide.buffer)
    view.setUint32(end, 0x06064b50, true)
    view.setUint32(end + 32, 0xffff_ffff, true)
    view.setUint32(end + 48, first, true)
    view.setUint32(end + 56, 0x07064b50, true)
    view.setUint32(end + 64, end, true)
    wide.set(ZIP.subarray(end), end + 76)
    expect(refusal(wide)).toBe('too many')
  })
  it('any number of which is far too large is read, or refused, within bounds of memory', () => {
    const before = process.memoryUsage().arrayBuffers
    let read = 0
    let refused = 0
    let most = 0
    for (let at = 0; at + 4 <= ZIP.length; at++)
      for (const value of [0x7fff_ffff, 0xffff_ffff]) {
        if (refusal(saying(at, value), { mostBytes: 500_000_000 }) === null) read++
        else refused++
        most = Math.max(most, process.memoryUsage().arrayBuffers - before)
      }
    expect(read).toBeGreaterThan(50)
    expect(refused).toBeGreaterThan(50)
    expect(most).toBeLessThan(50e6)
  })
})
