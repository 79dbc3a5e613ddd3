import {
  BufferTarget,
  EncodedPacket,
  EncodedVideoPacketSource,
  Mp4OutputFormat,
  Output,
  WebMOutputFormat,
} from 'mediabunny'
import { describe, expect, it, vi } from 'vitest'
import { MAX_CLAIMED_FRAMES } from '@/codecs/claims'
import { videoFrames } from './video'

// Node decodes no video; what is tried here is what a file says before anything of it is decoded.
vi.stubGlobal('VideoDecoder', { isConfigSupported: async (config: object) => ({ supported: true, config }) })

const FRAMES = 8
const CONFIG = {
  codec: 'vp09.00.10.08',
  codedWidth: 64,
  codedHeight: 48,
  colorSpace: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false },
} as const

/** A video of eight packets that hold no picture. */
async function videoFile(format: Mp4OutputFormat | WebMOutputFormat): Promise<Uint8Array<ArrayBuffer>> {
  const target = new BufferTarget()
  const output = new Output({ format, target })
  const source = new EncodedVideoPacketSource('vp9')
  output.addVideoTrack(source, { frameRate: 25 })
  await output.start()
  for (let n = 0; n < FRAMES; n++) {
    const packet = new EncodedPacket(new Uint8Array(100).fill(n), n === 0 ? 'key' : 'delta', n / 25, 1 / 25)
    await source.add(packet, n === 0 ? { decoderConfig: CONFIG } : undefined)
  }
  await output.finalize()
  return new Uint8Array(target.buffer as ArrayBuffer)
}
const MP4 = await videoFile(new Mp4OutputFormat({ fastStart: 'in-memory' }))
const WEBM = await videoFile(new WebMOutputFormat())

const open = (bytes: Uint8Array<ArrayBuffer>) => videoFrames(new File([bytes], 'wake.mp4'), 'MP4')

/** Where the fields of a box begin, behind its version and flags (ISO/IEC 14496-12, 4.2). */
function boxAt(type: string): number {
  const at = Buffer.from(MP4).indexOf(type, 0, 'latin1')
  if (at < 0) throw new Error(`the file has no ${type}`)
  return at + 8
}

/** The same MP4, claiming the given number of samples of one byte each: three numbers, with no bytes behind them. */
function promising(count: number): Uint8Array<ArrayBuffer> {
  const bytes = MP4.slice()
  const view = new DataView(bytes.buffer)
  view.setUint32(boxAt('stsz'), 1)
  view.setUint32(boxAt('stsz') + 4, count)
  view.setUint32(boxAt('stts') + 4, count)
  view.setUint32(boxAt('stsc') + 8, count)
  return bytes
}

describe('a video', () => {
  it('has the frames that it holds', async () => {
    expect(await open(MP4)).toMatchObject({ width: 64, height: 48, count: FRAMES })
    expect(await open(WEBM)).toMatchObject({ width: 64, height: 48, count: FRAMES })
  })

  it.each([20_001, 1_000_000, 0xffff_ffff])(
    'that promises %i frames in 1.5 kB is refused without counting them',
    // Counted, four thousand million of them would take days.
    async (count) => expect(open(promising(count))).rejects.toThrow(`up to ${MAX_CLAIMED_FRAMES} can be read`),
  )
})
