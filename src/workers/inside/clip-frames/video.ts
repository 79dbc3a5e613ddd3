import { ALL_FORMATS, BlobSource, EncodedPacketSink, Input, type VideoSample, VideoSampleSink } from 'mediabunny'
import { ClipError, HIGH_RANGE, MAX_CLAIMED_FRAMES } from '@/codecs/claims'
import { type OpenedClip, reader, refuseClipSize } from './reader'

/** Codecs by the names that people know. */
const CODECS: Readonly<Record<string, string>> = { avc: 'H.264', hevc: 'H.265', vp8: 'VP8', vp9: 'VP9', av1: 'AV1' }

/** Transfer functions of HDR (Rec. ITU-R BT.2100), by their names in WebCodecs. */
const HIGH_RANGES = ['pq', 'hlg']

/** The pictures of a video track, turned and cropped as the container says; frames have the times that they are shown for. */
export async function videoFrames(file: File, format: string): Promise<OpenedClip> {
  const input = new Input({ source: new BlobSource(file), formats: ALL_FORMATS })
  try {
    const track = await input.getPrimaryVideoTrack()
    if (!track) throw new ClipError(`${file.name} holds no pictures. Fetch or export it again.`)
    const codec = CODECS[track.codec ?? ''] ?? track.codec ?? 'an unknown codec'
    if (!(await track.canDecode()))
      throw new ClipError(`This browser cannot decode ${codec}. Convert ${file.name} to H.264, VP9 or AV1 first.`)
    if (HIGH_RANGES.includes((await track.getColorSpace()).transfer ?? '')) throw new ClipError(HIGH_RANGE)
    // A sample table of a few bytes can claim billions of frames: counting stops above the limit.
    const { packetCount, averagePacketRate } = await track.computePacketStats(MAX_CLAIMED_FRAMES + 1)
    const width = track.displayWidth
    const height = track.displayHeight
    refuseClipSize(width, height, packetCount, format)
    const turned = track.rotation === 0 ? [] : [`the file turns its pictures by ${track.rotation}°`]
    let starts: number[] | null = null
    /** When each frame begins, s, in the order in which they are shown. */
    const startsOf = async (): Promise<number[]> => {
      const found: number[] = []
      for await (const { timestamp } of new EncodedPacketSink(track).packets(undefined, undefined, {
        metadataOnly: true,
      }))
        found.push(timestamp)
      return found.sort((a, b) => a - b)
    }
    return {
      format: `${format}, ${codec}`,
      width,
      height,
      count: packetCount,
      plays: 0,
      notes: [...turned, 'a video does not say how often it is played: that is up to its player'],
      async *frames(w, h, wanted) {
        const read = reader(w, h)
        const sink = new VideoSampleSink(track)
        const frame = (n: number, sample: VideoSample) => {
          const picture = read((context) => sample.draw(context, 0, 0, w, h))
          const delayMs = 1000 * (sample.duration || 1 / averagePacketRate)
          sample.close()
          return { n, picture, delayMs }
        }
        try {
          if (!wanted) {
            let n = 0
            for await (const sample of sink.samples()) yield frame(n++, sample)
            return
          }
          starts ??= await startsOf()
          const times = wanted.map((n) => starts?.[n] ?? 0)
          let i = 0
          for await (const sample of sink.samplesAtTimestamps(times)) {
            const n = wanted[i++] as number
            if (sample) yield frame(n, sample)
          }
        } catch (error) {
          throw new ClipError(`${file.name} cannot be decoded to its end: ${(error as Error).message}`)
        }
      },
    }
  } catch (error) {
    if (error instanceof ClipError) throw error
    throw new ClipError(
      `${file.name} is damaged or breaks off: its pictures cannot be found. Fetch or export it again.`,
    )
  }
}
