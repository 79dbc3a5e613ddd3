import {
  BufferTarget,
  canEncodeVideo,
  Mp4OutputFormat,
  Output,
  QUALITY_HIGH,
  QUALITY_MEDIUM,
  QUALITY_VERY_HIGH,
  VideoSample,
  VideoSampleSource,
  WebMOutputFormat,
} from 'mediabunny'
import type { Encoded, EncodeJob } from '@/codecs/write'
import { CODEC_NAMES } from '@/core/output'

/** From this quality on the encoder is asked for as little loss as it can, and for less below the second. */
const LITTLE_LOSS = 90
const SOME_LOSS = 60

/**
 * A video whose first frame is a key frame, and whose frames have the times of the loop. It does not say how often it
 * is played: that is up to its player.
 * @throws Error where the browser has no encoder for it, in words
 */
export async function video(job: EncodeJob, container: 'mp4' | 'webm'): Promise<Encoded> {
  const { width, height, timing, settings, transparent, draw, progress } = job
  const { codec, quality } = settings
  const [delay] = timing.delays
  if (!delay) throw new Error('A video of no frames cannot be written.')
  const frameRate = delay.den / delay.num
  if (container === 'mp4' && (width % 2 > 0 || height % 2 > 0))
    throw new Error(
      `${CODEC_NAMES[codec]} in MP4 takes even sizes; this one is ${width} × ${height}. Choose another size.`,
    )
  const alpha = transparent && codec === 'vp9' ? 'keep' : 'discard'
  const wanted = quality >= LITTLE_LOSS ? QUALITY_VERY_HIGH : quality >= SOME_LOSS ? QUALITY_HIGH : QUALITY_MEDIUM
  if (!(await canEncodeVideo(codec, { width, height, quality: wanted, frameRate })))
    throw new Error(
      `This browser cannot write ${CODEC_NAMES[codec]} at ${width} × ${height}. Choose another codec or format, or open Cyclon in another browser.`,
    )
  const output = new Output({
    format: container === 'mp4' ? new Mp4OutputFormat({ fastStart: 'in-memory' }) : new WebMOutputFormat(),
    target: new BufferTarget(),
  })
  const source = new VideoSampleSource({ codec, quality: wanted, alpha, keyFrameInterval: 5, latencyMode: 'quality' })
  output.addVideoTrack(source, { frameRate })
  await output.start()
  try {
    for (const n of timing.frames.keys()) {
      const { data } = await draw(n)
      const sample = new VideoSample(data, {
        ...{ format: 'RGBA', codedWidth: width, codedHeight: height },
        timestamp: (n * delay.num) / delay.den,
        duration: delay.num / delay.den,
      })
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
  if (!buffer) throw new Error('The encoder gave no file.')
  return { bytes: new Uint8Array(buffer), type: `video/${container}`, ending: `.${container}` }
}
