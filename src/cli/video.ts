import { spawn, spawnSync } from 'node:child_process'
import { ClipError, checkFrames, checkSize, HIGH_RANGE, MAX_CLAIMED_FRAMES } from '@/codecs/claims'
import type { Picture } from '@/core/image'
import type { Source } from './sources'

/** The programs that read video, which are installed beside this one. */
const READER = 'ffmpeg'
const PROBE = 'ffprobe'
/** Transfer functions of HDR (Rec. ITU-R BT.2100): PQ and HLG. */
const HIGH_RANGES = ['smpte2084', 'arib-std-b67']

export const isVideo = (path: string): boolean => /\.(mp4|m4v|mov|webm|mkv)$/i.test(path)

/**
 * A video as an installed media program reads it.
 * @throws ClipError where there is none, or it cannot read the file
 */
export function videoSource(
  file: string,
  programs: { readonly probe: string; readonly reader: string } = { probe: PROBE, reader: READER },
): Source {
  const packets = [
    // A sample table of a few bytes can claim billions of frames: listing stops above the limit.
    '-read_intervals',
    `%+#${MAX_CLAIMED_FRAMES + 1}`,
    '-select_streams',
    'v:0',
    '-show_entries',
    'packet=pts_time,duration_time:stream=width,height,codec_name,color_transfer:stream_tags=alpha_mode',
    '-of',
    'json',
  ]
  const probed = spawnSync(programs.probe, ['-v', 'error', ...packets, file], { encoding: 'utf8', maxBuffer: 2 ** 28 })
  if (probed.error)
    throw new ClipError(
      'It is a video, which an installed media program reads, and none was found. Install ffmpeg (on Debian: apt install ffmpeg).',
    )
  if (probed.status !== 0)
    throw new ClipError(`It is no video that can be read: ${probed.stderr.trim().split('\n')[0]}`)
  const { delaysMs, width, height, decoder } = readProbe(probed.stdout)
  return {
    file,
    format: 'video',
    claims: { width, height, delaysMs, plays: 0, notes: [] },
    frames: () => framesOf(file, programs.reader, decoder),
  }
}

/**
 * Frame times from the output of the probe, which give the delays.
 * @throws ClipError
 */
function readProbe(text: string): {
  readonly delaysMs: readonly number[]
  readonly width: number
  readonly height: number
  /**
   * Decoder for VP9 or VP8 with an alpha channel, which lies beside the colours and must be asked for; null for all
   * others.
   */
  readonly decoder: string | null
} {
  type Told = {
    packets?: { pts_time?: string; duration_time?: string }[]
    streams?: {
      width?: number
      height?: number
      codec_name?: string
      color_transfer?: string
      tags?: { alpha_mode?: string; ALPHA_MODE?: string }
    }[]
  }
  const { packets = [], streams = [] } = JSON.parse(text) as Told
  const [stream] = streams
  const times = packets.map(({ pts_time }) => Number(pts_time)).sort((a, b) => a - b)
  if (!stream?.width || !stream.height || times.length === 0 || times.some((time) => !Number.isFinite(time)))
    throw new ClipError('It holds no moving picture, or says no times of it.')
  checkSize(stream.width, stream.height, 'video')
  checkFrames(times.length, 'video')
  if (HIGH_RANGES.includes(stream.color_transfer ?? '')) throw new ClipError(HIGH_RANGE)
  const last = Number(packets.at(-1)?.duration_time)
  const delaysMs = times.map((time, n) => {
    const next = times[n + 1]
    return next !== undefined ? 1000 * (next - time) : Number.isFinite(last) ? 1000 * last : 40
  })
  const alpha = (stream.tags?.alpha_mode ?? stream.tags?.ALPHA_MODE) === '1'
  const decoder = alpha ? (stream.codec_name === 'vp8' ? 'libvpx' : 'libvpx-vp9') : null
  return { delaysMs, width: stream.width, height: stream.height, decoder }
}

/** Arguments with which the media program writes the frames of a video as pictures of the PAM format to its output. */
const pamArguments = (file: string, decoder: string | null): string[] => [
  ...['-v', 'error', '-nostdin'],
  ...(decoder ? ['-c:v', decoder] : []),
  ...['-i', file, '-map', '0:v:0', '-vsync', '0'],
  ...['-f', 'image2pipe', '-c:v', 'pam', '-pix_fmt', 'rgba', '-'],
]

/** The frames of a video, through pictures that state their own size: a rotated video has another than it claims. @throws ClipError */
async function* framesOf(file: string, reader: string, decoder: string | null): AsyncGenerator<Picture> {
  const child = spawn(reader, pamArguments(file, decoder), { stdio: ['ignore', 'pipe', 'pipe'] })
  let said = ''
  child.stderr.on('data', (part: Buffer) => {
    if (said.length < 2000) said += part.toString()
  })
  const ended = new Promise<number | null>((resolve) => {
    child.once('close', resolve)
    child.once('error', () => resolve(null))
  })
  try {
    yield* pamPictures(child.stdout)
    if ((await ended) !== 0)
      throw new ClipError(`It is damaged: ${said.trim().split('\n')[0] || 'the media program gave up'}.`)
  } finally {
    child.kill()
  }
}

/** Pictures of the PAM format in a stream, one after the other. */
async function* pamPictures(stream: AsyncIterable<Buffer>): AsyncGenerator<Picture> {
  /** The head of the next frame, as far as it has arrived. */
  let head: Buffer = Buffer.alloc(0)
  let frame: Picture | null = null
  let filled = 0
  for await (const part of stream) {
    let rest = part
    while (rest.length > 0) {
      if (!frame) {
        // A head is short: it is found within the latest bytes and a little before them.
        const before = head.length
        head = before === 0 ? rest : Buffer.concat([head, rest])
        const told = headOf(head)
        if (!told) break
        const { width, height, start } = told
        rest = rest.subarray(start - before)
        head = Buffer.alloc(0)
        frame = { width, height, data: new Uint8ClampedArray(4 * width * height) }
        filled = 0
      }
      const some: Buffer = rest.subarray(0, frame.data.length - filled)
      frame.data.set(some, filled)
      filled += some.length
      rest = rest.subarray(some.length)
      if (filled < frame.data.length) continue
      yield frame
      frame = null
    }
  }
}

/** Where the pixels of a PAM begin, and how many there are (Netpbm, pam(5)); null where its head is not all there. */
function headOf(bytes: Buffer): { readonly width: number; readonly height: number; readonly start: number } | null {
  const mark = 'ENDHDR\n'
  const end = bytes.subarray(0, 400).indexOf(mark)
  if (end < 0) return null
  const head = bytes.subarray(0, end).toString('latin1')
  const number = (name: string) => Number(new RegExp(`^${name} (\\d+)$`, 'm').exec(head)?.[1] ?? 0)
  return { width: number('WIDTH'), height: number('HEIGHT'), start: end + mark.length }
}
