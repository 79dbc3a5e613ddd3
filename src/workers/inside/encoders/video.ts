import {
  BufferTarget,
  canEncodeVideo,
  Mp4OutputFormat,
  Output,
  VideoSample,
  VideoSampleSource,
  WebMOutputFormat,
} from 'mediabunny'
import type { Encoded, EncodeJob } from '@/codecs/write'
import { type Picture, toYuv420 } from '@/core/image'
import { CODEC_NAMES, type VideoCodec } from '@/core/output'

/** Bits a pixel of quality 1 and of 100, which is near to no loss; the codecs after H.264 need a share of it. */
const BITS = { least: 0.012, most: 0.7 } as const
const NEED: Readonly<Record<VideoCodec, number>> = { avc: 1, vp9: 0.75, av1: 0.6 }
/** Extra bits per pixel for the first frame, which is a whole picture. */
const FIRST = 1.2

/** Bits a second for a quality, 1 to 100; equal steps of quality are equal factors. */
function bitrateOf(quality: number, codec: VideoCodec, pixels: number, frameRate: number, seconds: number): number {
  const each = BITS.least * (BITS.most / BITS.least) ** ((quality - 1) / 99)
  return Math.round(pixels * NEED[codec] * (each * frameRate + (FIRST * (quality / 100)) / seconds))
}

export interface VideoJob extends EncodeJob {
  /** Draws frames as an encoder of video takes them, in turn, where that spares the reading of their pixels. */
  readonly videoFrame?: (n: number) => Promise<VideoFrame>
}

/** Colour space of a coded picture that states none. */
const PLAIN_SPACE = {
  format: 'I420',
  colorSpace: { primaries: 'bt709', transfer: 'iec61966-2-1', matrix: 'bt709', fullRange: false },
} as const

/** @param plain whether it goes in as the codec codes it */
function fromPixels(
  picture: Picture,
  times: { readonly timestamp: number; readonly duration: number },
  plain: boolean,
): VideoSample {
  const { width: codedWidth, height: codedHeight, data } = picture
  const how = { ...times, codedWidth, codedHeight }
  return plain
    ? new VideoSample(toYuv420(picture), { ...how, ...PLAIN_SPACE })
    : new VideoSample(data, { ...how, format: 'RGBA' })
}

/**
 * A video whose first frame is a key frame, and whose frames have the times of the loop. It does not say how often it
 * is played: that is up to its player.
 * @param plain whether frames go in as the codec codes them: for readers that do not look for a colour space beside it
 * @throws Error where the browser has no encoder for it, in words
 */
export async function video(job: VideoJob, container: 'mp4' | 'webm', plain = false): Promise<Encoded> {
  const { width, height, timing, settings, transparent, draw, videoFrame, progress } = job
  const { codec, quality } = settings
  const [delay] = timing.delays
  if (!delay) throw new Error('A video of no frames cannot be written.')
  const frameRate = delay.den / delay.num
  if (container === 'mp4' && (width % 2 > 0 || height % 2 > 0))
    throw new Error(
      `${CODEC_NAMES[codec]} in MP4 takes even sizes; this one is ${width} × ${height}. Choose another size.`,
    )
  const alpha = transparent && codec === 'vp9' ? 'keep' : 'discard'
  const seconds = (job.wholeCount ?? timing.frames.length) / frameRate
  const bitrate = bitrateOf(quality, codec, width * height, frameRate, seconds)
  if (!(await canEncodeVideo(codec, { width, height, bitrate, frameRate })))
    throw new Error(
      `This browser cannot write ${CODEC_NAMES[codec]} at ${width} × ${height}. Choose another codec or format, or open Cyclon in another browser.`,
    )
  const output = new Output({
    format: container === 'mp4' ? new Mp4OutputFormat({ fastStart: 'in-memory' }) : new WebMOutputFormat(),
    target: new BufferTarget(),
  })
  const source = new VideoSampleSource({ codec, bitrate, alpha, keyFrameInterval: 5, latencyMode: 'quality' })
  output.addVideoTrack(source, { frameRate })
  await output.start()
  try {
    for (const n of timing.frames.keys()) {
      const times = { timestamp: (n * delay.num) / delay.den, duration: delay.num / delay.den }
      const sample =
        videoFrame && !plain ? new VideoSample(await videoFrame(n), times) : fromPixels(await draw(n), times, plain)
      await source.add(sample, { keyFrame: n === 0 })
      sample.close()
      await progress(n + 1)
    }
    await output.finalize()
  } catch (error) {
    await output.cancel()
    throw error
  }
  const { buffer } = output.target
  if (!buffer) throw new Error('The browser’s encoder gave no file. Try again, or choose another format.')
  return { bytes: new Uint8Array(buffer), type: `video/${container}` }
}
