import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { encodeCase } from '../bench/corpus/encode'
import { casesOf } from '../bench/corpus/faults'
import { SCENES, type Scene, scenePictures } from '../bench/corpus/scenes'

/**
 * Writes `e2e/fixtures/`: one turning lamp of 24 frames, as a general-purpose media encoder writes it
 * (`apt-get install ffmpeg imagemagick`, then `npx tsx scripts/fixtures.ts`). The files are kept, so that tests need no encoder.
 */
const SIZE = 96
const FRAMES = 24
const folder = mkdtempSync(join(tmpdir(), 'cyclon-fixtures-'))
const out = new URL('../e2e/fixtures/', import.meta.url).pathname
mkdirSync(out, { recursive: true })
const scene = (name: string) => SCENES.find((each) => each.name === name) as Scene
const times = Array.from({ length: FRAMES }, (_, n) => n / FRAMES)
for (const [name, file] of [
  ['turning', 'lamp'],
  ['transparent', 'clear'],
] as const)
  for (const [n, { data }] of scenePictures(scene(name), SIZE, times, FRAMES).entries())
    writeFileSync(
      join(folder, `${file}-${String(n).padStart(3, '0')}.png`),
      await sharp(data, { raw: { width: SIZE, height: SIZE, channels: 4 } })
        .png()
        .toBuffer(),
    )
const encode = (file: string, from: string, ...options: string[]) =>
  execFileSync('ffmpeg', [
    '-y',
    '-loglevel',
    'error',
    '-r',
    '25',
    '-i',
    join(folder, `${from}-%03d.png`),
    ...options,
    join(out, file),
  ])
encode('lamp.mp4', 'lamp', '-c:v', 'libx264', '-crf', '12', '-pix_fmt', 'yuv420p')
encode('lamp.mov', 'lamp', '-c:v', 'libx264', '-crf', '12', '-pix_fmt', 'yuv420p')
encode('lamp.webm', 'lamp', '-c:v', 'libvpx-vp9', '-crf', '15', '-b:v', '0', '-pix_fmt', 'yuv420p')
encode(
  'clear.webm',
  'clear',
  '-c:v',
  'libvpx-vp9',
  '-crf',
  '15',
  '-b:v',
  '0',
  '-pix_fmt',
  'yuva420p',
  '-auto-alt-ref',
  '0',
)
encode('lamp.gif', 'lamp', '-filter_complex', 'split[a][b];[a]palettegen[p];[b][p]paletteuse')
encode('lamp.png', 'lamp', '-f', 'apng', '-plays', '0')
encode('clear.webp', 'clear', '-c:v', 'libwebp_anim', '-lossless', '1', '-loop', '0')
encode('lamp.avif', 'lamp', '-c:v', 'libaom-av1', '-crf', '10', '-cpu-used', '6')
// A palette for each frame; lines in four passes; frames of two durations; two ways to code colour, both said in the file.
encode('local.gif', 'lamp', '-filter_complex', 'split[a][b];[a]palettegen=stats_mode=single[p];[b][p]paletteuse=new=1')
execFileSync('convert', [join(out, 'lamp.gif'), '-coalesce', '-interlace', 'GIF', join(out, 'interlaced.gif')])
const slower = "setpts='(N+max(0,N-12))/25/TB'"
encode('uneven.mp4', 'lamp', '-vf', slower, '-fps_mode', 'vfr', '-c:v', 'libx264', '-crf', '12', '-pix_fmt', 'yuv420p')
for (const [file, matrix] of [
  ['hd.mp4', 'bt709'],
  ['sd.mp4', 'smpte170m'],
] as const)
  encode(
    ...([file, 'lamp', '-vf', `scale=out_color_matrix=${matrix}:out_range=tv`] as const),
    ...['-colorspace', matrix, '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'],
    ...['-c:v', 'libx264', '-crf', '4', '-pix_fmt', 'yuv420p'],
  )
// The same with its pictures turned by its container.
execFileSync('ffmpeg', [
  ...['-y', '-loglevel', 'error', '-i', join(out, 'lamp.mp4')],
  ...['-metadata:s:v', 'rotate=90', '-c', 'copy', join(out, 'turned.mp4')],
])
rmSync(folder, { recursive: true })

// Two loops with a fault, for the pictures in docs.
mkdirSync(join(out, 'faults'), { recursive: true })
for (const [of, fault, encoder, file] of [
  ['turning', 'an empty frame after the last', 'gif, one palette', 'blank-at-the-end.gif'],
  ['footage with grain', 'its end is missing', 'webp, lossy', 'end-missing.webp'],
] as const)
  for (const each of casesOf(scene(of), { size: 240, frames: FRAMES, delayMs: 40 }))
    if (each.fault === fault) writeFileSync(join(out, 'faults', file), await encodeCase(each, encoder))
