/** Boxes that hold others on the way to what is changed (ISO/IEC 14496-12). */
const HOLDERS = new Set(['moov', 'trak', 'edts', 'mdia', 'minf', 'stbl'])

interface Box {
  readonly type: string
  readonly at: number
  readonly size: number
}

function* boxes(view: DataView, from: number, to: number): Generator<Box> {
  for (let at = from; at + 8 <= to; ) {
    const size = view.getUint32(at)
    const type = String.fromCharCode(...Array.from({ length: 4 }, (_, i) => view.getUint8(at + 4 + i)))
    if (size < 8 || at + size > to) throw new RangeError(`the box ${type} breaks off`)
    yield { type, at, size }
    if (HOLDERS.has(type)) yield* boxes(view, at + 8, at + size)
    at += size
  }
}

/** The edit list that repeats a track from its beginning: version 0, flag 1, one edit. */
function repeating(duration: number): Uint8Array {
  const bytes = new Uint8Array(36)
  const view = new DataView(bytes.buffer)
  const text = (at: number, type: string) => bytes.set(new TextEncoder().encode(type), at)
  view.setUint32(0, 36)
  text(4, 'edts')
  view.setUint32(8, 28)
  text(12, 'elst')
  view.setUint32(16, 1)
  view.setUint32(20, 1)
  view.setUint32(24, duration)
  view.setUint32(28, 0)
  view.setUint32(32, 0x00010000)
  return bytes
}

/** Whether an image sequence asks to be repeated for ever: the edit of its track is repeated. @throws RangeError where it breaks off */
export function avifRepeats(bytes: Uint8Array): boolean {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length)
  return [...boxes(view, 0, bytes.length)].some(
    ({ type, at }) => type === 'elst' && (view.getUint32(at + 8) & 0xffffff) === 1,
  )
}

/** A track header of version 0 as one of version 1, with a duration that has no end. */
function withoutEnd(source: Uint8Array, { at, size }: Box): Uint8Array {
  const bytes = new Uint8Array(size + 12)
  const view = new DataView(bytes.buffer)
  const from = new DataView(source.buffer, at)
  bytes.set(source.subarray(at, at + 12))
  view.setUint32(0, bytes.length)
  view.setUint8(8, 1)
  // Times of creation and change take 64 bits; number of the track and a reserved word; the duration.
  view.setUint32(16, from.getUint32(12))
  view.setUint32(24, from.getUint32(16))
  view.setUint32(28, from.getUint32(20))
  view.setBigUint64(36, 0xffffffffffffffffn)
  bytes.set(source.subarray(at + 32, at + size), 44)
  return bytes
}

/**
 * An MP4 of one AV1 track as an AVIF image sequence that plays for ever (AV1 Image File Format 1.1, § 3; HEIF, ISO/IEC 23008-12,
 * § 7): the brand is another, the track is one of pictures, its duration has no end and its edit repeats. Samples stay as they are.
 * @throws RangeError where it is no such MP4
 */
export function avifOf(mp4: Uint8Array): Uint8Array<ArrayBuffer> {
  const source = mp4.slice()
  const view = new DataView(source.buffer)
  const found = [...boxes(view, 0, source.length)]
  const box = (type: string): Box => {
    const all = found.filter((each) => each.type === type)
    if (all.length !== 1) throw new RangeError(`an MP4 of one track has one box ${type}, this one ${all.length}`)
    return all[0] as Box
  }
  const text = (at: number, value: string) => source.set(new TextEncoder().encode(value), at)
  const brands = box('ftyp')
  const track = box('trak')
  const header = box('tkhd')
  text(brands.at + 8, 'avis')
  for (let at = brands.at + 16; at < brands.at + brands.size; at += 4) text(at, at === brands.at + 16 ? 'avis' : 'msf1')
  // Pictures have nothing where QuickTime names a component.
  text(box('hdlr').at + 12, '\0\0\0\0pict')
  if (view.getUint8(header.at + 8) !== 0) throw new RangeError('the track is longer than 32 bits can say')
  const endless = withoutEnd(source, header)
  const edit = repeating(view.getUint32(header.at + 28))
  const more = endless.length - header.size + edit.length
  for (const { at, size } of [box('moov'), track]) view.setUint32(at, size + more)
  // The samples move on by what is put before them.
  const offsets = box('stco')
  if (box('mdat').at > header.at)
    for (let i = 0; i < view.getUint32(offsets.at + 12); i++) {
      const at = offsets.at + 16 + 4 * i
      view.setUint32(at, view.getUint32(at) + more)
    }
  const parts = [source.subarray(0, header.at), endless, edit, source.subarray(header.at + header.size)]
  const bytes = new Uint8Array(source.length + more)
  let at = 0
  for (const part of parts) {
    bytes.set(part, at)
    at += part.length
  }
  return bytes
}
