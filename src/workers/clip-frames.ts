import { ALL_FORMATS, BlobSource, Input, VideoSampleSink } from 'mediabunny'
import { ClipError, type FileClaims, MOST_FRAMES, readClaims } from '@/codecs/claims'
import { MAX_PIXELS, type Picture } from '@/core/image'

/** What is known of a clip before it is decoded. */
export interface OpenedClip {
  readonly format: string
  /** px, turned as it is shown */
  readonly width: number
  readonly height: number
  /** Frames that it claims; there may be fewer. */
  readonly count: number
  /** 0 is for ever. */
  readonly plays: number
  readonly notes: readonly string[]
  /** The frames as a viewer shows them, at a size, each with the time for which it is shown. */
  readonly frames: (width: number, height: number) => AsyncGenerator<{ picture: Picture; delayMs: number }>
}

/** Frames per second of numbered pictures, which say nothing of it themselves. */
const SEQUENCE_RATE = 25

type Drawing = (context: OffscreenCanvasRenderingContext2D, width: number, height: number) => void

/** A canvas that pictures are drawn on, one after the other, and read from. */
function reader(width: number, height: number): (draw: Drawing) => Picture {
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })
  if (!context) throw new ClipError('This browser gives no canvas to read pictures with.')
  return (draw) => {
    context.clearRect(0, 0, width, height)
    draw(context, width, height)
    return context.getImageData(0, 0, width, height)
  }
}

/** Opens one file, or several pictures as a sequence. @throws ClipError where it cannot be read. */
export async function openFrames(files: readonly File[]): Promise<OpenedClip> {
  const [file] = files
  if (!file) throw new ClipError('No file was given.')
  if (files.length > 1) return sequenceOf(files)
  const head = new Uint8Array(await file.slice(0, 16).arrayBuffer())
  const text = (from: number, to: number) => String.fromCharCode(...head.subarray(from, to))
  if (text(4, 8) === 'ftyp')
    return text(8, 11) === 'avi' ? avif(file) : video(file, text(8, 10) === 'qt' ? 'MOV' : 'MP4')
  if (head[0] === 0x1a && head[1] === 0x45 && head[2] === 0xdf && head[3] === 0xa3) return video(file, 'WebM')
  const bytes = new Uint8Array(await file.arrayBuffer())
  return image(bytes, readClaims(bytes), file.name)
}

const NAMES = { gif: 'GIF', apng: 'APNG', png: 'PNG', webp: 'WebP' }
const TYPES = { gif: 'image/gif', apng: 'image/png', png: 'image/png', webp: 'image/webp' }

function decoderOf(data: Uint8Array<ArrayBuffer>, type: string): ImageDecoder {
  if (typeof ImageDecoder === 'undefined')
    throw new ClipError('This browser cannot decode moving pictures by itself. Open the file in another one.')
  return new ImageDecoder({ data, type, preferAnimation: true })
}

function image(bytes: Uint8Array<ArrayBuffer>, claims: FileClaims, name: string): OpenedClip {
  const { format, width, height, delaysMs, plays, notes } = claims
  return {
    ...{ format: NAMES[format], width, height, count: delaysMs.length, plays, notes },
    async *frames(w, h) {
      const read = reader(w, h)
      const decoder = decoderOf(bytes, TYPES[format])
      try {
        await decoder.tracks.ready
        for (const [n, delayMs] of delaysMs.entries()) {
          const { image: frame } = await decoder.decode({ frameIndex: n }).catch((error: Error) => {
            throw new ClipError(`Frame ${n} of ${name} cannot be decoded: ${error.message} Fetch or export it again.`)
          })
          const picture = read((context) => context.drawImage(frame, 0, 0, w, h))
          frame.close()
          yield { picture, delayMs }
        }
      } finally {
        decoder.close()
      }
    },
  }
}

/** An AVIF says nothing of its frames that could be read without decoding it. */
async function avif(file: File): Promise<OpenedClip> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  const decoder = decoderOf(bytes, 'image/avif')
  try {
    await decoder.tracks.ready
    const track = decoder.tracks.selectedTrack
    const { image: first } = await decoder.decode({ frameIndex: 0 })
    const [width, height] = [first.displayWidth, first.displayHeight]
    first.close()
    const count = track?.frameCount ?? 1
    check(width, height, count, 'AVIF')
    return {
      ...{ format: 'AVIF', width, height, count, notes: [] },
      plays: track && track.repetitionCount !== Infinity ? track.repetitionCount + 1 : 0,
      async *frames(w, h) {
        const read = reader(w, h)
        const own = decoderOf(bytes, 'image/avif')
        try {
          await own.tracks.ready
          for (let n = 0; n < count; n++) {
            const { image: frame } = await own.decode({ frameIndex: n })
            const picture = read((context) => context.drawImage(frame, 0, 0, w, h))
            const delayMs = (frame.duration ?? 0) / 1000
            frame.close()
            yield { picture, delayMs }
          }
        } finally {
          own.close()
        }
      },
    }
  } catch (error) {
    if (error instanceof ClipError) throw error
    throw new ClipError(`${file.name} cannot be decoded as AVIF. It may be damaged; fetch or export it again.`)
  } finally {
    decoder.close()
  }
}

function check(width: number, height: number, count: number, format: string): void {
  if (width < 1 || height < 1 || width * height > MAX_PIXELS)
    throw new ClipError(`The ${format} file claims ${width} × ${height} px, which cannot be worked with.`)
  if (count < 1) throw new ClipError(`The ${format} file holds no picture.`)
  if (count > MOST_FRAMES)
    throw new ClipError(`The ${format} file holds ${count} frames; up to ${MOST_FRAMES} can be read. Cut it first.`)
}

/** Codecs by the names that people know. */
const CODECS: Readonly<Record<string, string>> = { avc: 'H.264', hevc: 'H.265', vp8: 'VP8', vp9: 'VP9', av1: 'AV1' }

/** The pictures of a video track, turned and cropped as the container says; frames have the times that they are shown for. */
async function video(file: File, format: string): Promise<OpenedClip> {
  const input = new Input({ source: new BlobSource(file), formats: ALL_FORMATS })
  const damaged = (error: unknown) =>
    error instanceof ClipError
      ? error
      : new ClipError(`${file.name} cannot be read: ${(error as Error).message} It may be damaged or break off.`)
  try {
    const track = await input.getPrimaryVideoTrack()
    if (!track) throw new ClipError(`${file.name} holds no pictures.`)
    const codec = CODECS[track.codec ?? ''] ?? track.codec ?? 'an unknown codec'
    if (!(await track.canDecode()))
      throw new ClipError(`This browser cannot decode ${codec}. Convert ${file.name} to H.264, VP9 or AV1 first.`)
    const { packetCount, averagePacketRate } = await track.computePacketStats()
    const [width, height] = [track.displayWidth, track.displayHeight]
    check(width, height, packetCount, format)
    const turned = track.rotation === 0 ? [] : [`the file turns its pictures by ${track.rotation}°`]
    return {
      ...{ format: `${format}, ${codec}`, width, height, count: packetCount, plays: 0 },
      notes: [...turned, 'a video does not say how often it is played: that is up to its player'],
      async *frames(w, h) {
        const read = reader(w, h)
        try {
          for await (const sample of new VideoSampleSink(track).samples()) {
            const picture = read((context) => sample.draw(context, 0, 0, w, h))
            const delayMs = 1000 * (sample.duration || 1 / averagePacketRate)
            sample.close()
            yield { picture, delayMs }
          }
        } catch (error) {
          throw damaged(error)
        }
      },
    }
  } catch (error) {
    throw damaged(error)
  }
}

const numberIn = (name: string): number => Number(/(\d+)\D*$/.exec(name)?.[1] ?? Number.NaN)

/** Numbered pictures of one size, in the order of their numbers. */
async function sequenceOf(files: readonly File[]): Promise<OpenedClip> {
  const ordered = [...files].sort(
    (a, b) => numberIn(a.name) - numberIn(b.name) || a.name.localeCompare(b.name, 'en', { numeric: true }),
  )
  const decode = async (file: File) => {
    const bitmap = await createImageBitmap(file).catch(() => null)
    if (!bitmap) throw new ClipError(`${file.name} cannot be read as a picture. Take it out or export it again.`)
    return bitmap
  }
  const first = await decode(ordered[0] as File)
  const { width, height } = first
  first.close()
  check(width, height, ordered.length, 'first')
  const missing = ordered.flatMap(({ name }, i) => {
    const [before, own] = [numberIn(ordered[i - 1]?.name ?? ''), numberIn(name)]
    return own > before + 1 ? [own > before + 2 ? `${before + 1} to ${own - 1}` : String(before + 1)] : []
  })
  return {
    ...{ format: `${ordered.length} pictures`, width, height, count: ordered.length, plays: 0 },
    notes: [
      `shown at ${SEQUENCE_RATE} a second, since pictures do not say it`,
      ...(missing.length > 0 ? [`numbers are missing: ${missing.join(', ')}`] : []),
    ],
    async *frames(w, h) {
      const read = reader(w, h)
      for (const file of ordered) {
        const bitmap = await decode(file)
        if (bitmap.width !== width || bitmap.height !== height)
          throw new ClipError(
            `${file.name} has ${bitmap.width} × ${bitmap.height} px, the first picture ${width} × ${height}. Give them one size.`,
          )
        const picture = read((context) => context.drawImage(bitmap, 0, 0, w, h))
        bitmap.close()
        yield { picture, delayMs: 1000 / SEQUENCE_RATE }
      }
    },
  }
}
