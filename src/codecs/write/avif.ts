/** Boxes that hold others on the way to what is changed (ISO/IEC 14496-12). */
const HOLDERS = new Set(['moov', 'trak', 'mdia', 'minf', 'stbl'])

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
  const [brands, track, header] = [box('ftyp'), box('trak'), box('tkhd')]
  text(brands.at + 8, 'avis')
  for (let at = brands.at + 16; at < brands.at + brands.size; at += 4) text(at, at === brands.at + 16 ? 'avis' : 'msf1')
  text(box('hdlr').at + 16, 'pict')
  if (view.getUint8(header.at + 8) !== 0) throw new RangeError('the track is longer than 32 bits can say')
  const duration = view.getUint32(header.at + 28)
  view.setUint32(header.at + 28, 0xffffffff)
  const edit = repeating(duration)
  for (const { at, size } of [box('moov'), track]) view.setUint32(at, size + edit.length)
  // The samples move on by what is put before them.
  const samples = box('mdat')
  const offsets = box('stco')
  if (samples.at > header.at)
    for (let i = 0; i < view.getUint32(offsets.at + 12); i++) {
      const at = offsets.at + 16 + 4 * i
      view.setUint32(at, view.getUint32(at) + edit.length)
    }
  const end = header.at + header.size
  const bytes = new Uint8Array(source.length + edit.length)
  bytes.set(source.subarray(0, end))
  bytes.set(edit, end)
  bytes.set(source.subarray(end), end + edit.length)
  return bytes
}
