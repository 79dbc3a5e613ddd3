import { spawn } from 'node:child_process'
import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Encoded, EncodeJob } from '@/codecs/write'
import { avifOf } from '@/codecs/write/avif'
import { CommandError } from './command-error'

/** The program that writes video, which is installed beside this one. */
const WRITER = 'ffmpeg'

export const VIDEO_FORMATS = ['mp4', 'webm', 'avif'] as const
export type VideoFormat = (typeof VIDEO_FORMATS)[number]
export const isVideoFormat = (format: string): format is VideoFormat =>
  (VIDEO_FORMATS as readonly string[]).includes(format)

/** A quality of 1 to 100 as the constant rate factor of a codec, whose best and worst useful values are given. */
const factorOf = (quality: number, best: number, worst: number): string =>
  String(Math.round(worst + ((best - worst) * quality) / 100))

/** Colours as nearly all readers take them for granted: ITU-R BT.709, limited range. */
const PLAIN_SPACE = ['-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709', '-color_range', 'tv']
const toSpace = (pixels: string) => ['-vf', 'scale=out_color_matrix=bt709:out_range=tv', '-pix_fmt', pixels]

/** How each format is written: all on one thread for a file, so that files are the same wherever they are made. */
const HOW: Readonly<Record<VideoFormat, (job: EncodeJob) => string[]>> = {
  mp4: ({ settings }) => [
    ...['-c:v', 'libx264', '-preset', 'medium', '-crf', factorOf(settings.quality, 8, 40), '-threads', '1'],
    ...toSpace('yuv420p'),
    ...['-movflags', '+faststart', '-video_track_timescale', '90000'],
  ],
  webm: ({ settings, transparent }) => [
    ...['-c:v', 'libvpx-vp9', '-b:v', '0', '-crf', factorOf(settings.quality, 8, 50), '-row-mt', '0', '-threads', '1'],
    ...['-auto-alt-ref', transparent ? '0' : '1'],
    ...toSpace(transparent ? 'yuva420p' : 'yuv420p'),
  ],
  avif: ({ settings }) => [
    ...['-c:v', 'libaom-av1', '-cpu-used', '6', '-crf', factorOf(settings.quality, 8, 50), '-b:v', '0'],
    // As a video, which is then made an image sequence that repeats: what the program writes as one asks for no repeats.
    ...['-threads', '1', ...toSpace('yuv420p'), '-use_editlist', '0', '-video_track_timescale', '90000'],
  ],
}

/**
 * A video, or an AVIF, of the frames of a job, by an installed media program.
 * @throws CommandError where there is none, or it cannot write this
 */
export async function videoOf(job: EncodeJob, writer = WRITER): Promise<Encoded> {
  const { width, height, timing, settings, draw, progress, transparent } = job
  const format = settings.format as VideoFormat
  const [delay] = timing.delays
  if (!delay) throw new CommandError('A video of no frames cannot be written.')
  if (format === 'mp4' && (width % 2 > 0 || height % 2 > 0))
    throw new CommandError(`H.264 takes even sizes; this one is ${width} × ${height}. Choose another scale.`)
  if (transparent && format === 'avif')
    throw new CommandError('AVIF is written without alpha here: keep the background, or write WebM, WebP or APNG.')
  const folder = await mkdtemp(join(tmpdir(), 'cyclon-video-'))
  const file = join(folder, `loop.${format === 'avif' ? 'mp4' : format}`)
  const child = spawn(
    writer,
    [
      ...['-v', 'error', '-nostdin', '-y', '-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${width}x${height}`],
      ...['-r', `${delay.den}/${delay.num}`, '-i', '-', '-an', ...HOW[format](job), ...PLAIN_SPACE],
      ...['-fps_mode', 'passthrough', '-fflags', '+bitexact', '-flags:v', '+bitexact', file],
    ],
    { stdio: ['pipe', 'ignore', 'pipe'] },
  )
  let said = ''
  child.stderr.on('data', (part: Buffer) => {
    if (said.length < 2000) said += part.toString()
  })
  let missing = false
  const ended = new Promise<number | null>((resolve) => {
    child.once('close', resolve)
    child.once('error', () => {
      missing = true
      resolve(null)
    })
  })
  // A program that gives up closes its end while frames are still being given to it; why is said when it has ended.
  child.stdin.on('error', () => {})
  try {
    for (const n of timing.frames.keys()) {
      const { data } = await draw(n)
      const taken = child.stdin.write(Buffer.from(data.buffer, data.byteOffset, data.byteLength))
      if (!taken) await Promise.race([new Promise((resolve) => child.stdin.once('drain', resolve)), ended])
      if (child.exitCode !== null || missing) break
      await progress(n + 1)
    }
    child.stdin.end()
    const code = await ended
    if (missing)
      throw new CommandError(
        'Video is written by an installed media program, and none was found. Install ffmpeg (on Debian: apt install ffmpeg).',
      )
    if (code !== 0)
      throw new CommandError(
        `The media program could not write this ${format.toUpperCase()}: ${said.trim().split('\n')[0] || 'it gave up'}.`,
      )
    const bytes = new Uint8Array(await readFile(file))
    return format === 'avif' ? { bytes: avifOf(bytes), type: 'image/avif' } : { bytes, type: `video/${format}` }
  } finally {
    child.kill()
    await rm(folder, { recursive: true, force: true })
  }
}
