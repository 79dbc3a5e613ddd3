import * as z from 'zod/mini'
import { FILE_FORMATS, type FileFormat } from '../clock'
import { isColour, oklabOf } from '../colour'
import type { Loop } from '../document'
import { DITHERINGS, SHEET_SIDES } from '../image'
import { number, textThat, whole } from '../schemas'
import { BACKGROUNDS, MAX_REPEATS, SCALES } from './bounds'

export { BACKGROUNDS, MAX_REPEATS, SCALES }

export const PALETTE_CHOICES = ['measured', 'one', 'per frame'] as const
export const VIDEO_CODECS = { mp4: ['avc', 'av1'], webm: ['vp9', 'av1'] } as const
export type VideoCodec = (typeof VIDEO_CODECS)[keyof typeof VIDEO_CODECS][number]
/** Codecs by the names that people know. */
export const CODEC_NAMES: Readonly<Record<VideoCodec, string>> = { avc: 'H.264', av1: 'AV1', vp9: 'VP9' }

/** How the names of files end. */
export const ENDINGS: Readonly<Record<FileFormat, string>> = {
  gif: '.gif',
  apng: '.apng.png',
  webp: '.webp',
  avif: '.avif',
  mp4: '.mp4',
  webm: '.webm',
  svg: '.svg',
  lottie: '.json',
  'png-sequence': '.zip',
  'sprite-sheet': '.zip',
}

/** How fine passes of models are that run evenly. */
export const PRECISIONS = ['8 bits', '16 bits', '16 bits, depth and normals as EXR'] as const

/** How a loop is written to a file: everything that can be chosen, whether its format has use for it or not. */
export const settingsSchema = z.strictObject({
  format: z.enum(FILE_FORMATS),
  /** Size as a multiple of the loop's own. */
  scale: number(SCALES.least, SCALES.most),
  /** One frame in every `every` is written; a divisor of the length. */
  every: whole(1, 600),
  repeats: whole(1, MAX_REPEATS),
  background: z.enum(BACKGROUNDS),
  /** The colour that it is put on; of a GIF without background, the one that its edges are mixed with, if any. */
  matte: z.nullable(textThat(isColour, 'is no colour')),
  colours: whole(2, 256),
  palettes: z.enum(PALETTE_CHOICES),
  dithering: z.enum(DITHERINGS),
  /** GIF: a pixel is written anew once it differs from its colour by more than this, 0 … 255. */
  loss: whole(0, 64),
  /** WebP: no loss at all; else the quality, 1 to 100, which video has too. */
  lossless: z.boolean(),
  quality: whole(1, 100),
  codec: z.enum(['avc', 'vp9', 'av1']),
  /** Of a sequence: the number of its first picture. */
  firstNumber: whole(0, 99_999),
  sides: z.enum(SHEET_SIDES),
  /** Of a sequence: the whole picture, its colours without alpha, its alpha, or layers by their ids. */
  passes: z.array(z.string()).check(z.minLength(1)),
  precision: z.optional(z.enum(PRECISIONS)),
})
export type FileSettings = z.infer<typeof settingsSchema>

export const PLAIN_SETTINGS: FileSettings = {
  format: 'gif',
  scale: 1,
  every: 1,
  repeats: 1,
  background: 'kept',
  matte: null,
  colours: 256,
  palettes: 'measured',
  dithering: 'none',
  loss: 0,
  lossless: true,
  quality: 90,
  codec: 'avc',
  firstNumber: 0,
  sides: 'as it comes',
  passes: ['picture'],
}

/** Settings for another format, with a codec that it has. */
export function withFormat(settings: FileSettings, format: FileFormat): FileSettings {
  if (format !== 'mp4' && format !== 'webm') return { ...settings, format }
  const codecs: readonly VideoCodec[] = VIDEO_CODECS[format]
  return { ...settings, format, codec: codecs.includes(settings.codec) ? settings.codec : (codecs[0] as VideoCodec) }
}

/** Whether a file can leave the ground behind it free. */
export const canBeClear = ({ format, codec }: Pick<FileSettings, 'format' | 'codec'>): boolean =>
  format !== 'avif' && format !== 'mp4' && (format !== 'webm' || codec === 'vp9')

/** The ground that a loop lies on in a file: a CSS colour, or null for none. */
export function backgroundIn(loop: Pick<Loop, 'background'>, settings: FileSettings): string | null {
  const own =
    settings.background === 'kept' ? loop.background : settings.background === 'a colour' ? settings.matte : null
  if (own !== null && (canBeClear(settings) || !seeThrough(own))) return own
  if (settings.background === 'a colour' && own === null) return 'white'
  return canBeClear(settings) ? own : (settings.matte ?? 'white')
}

/** Whether something of what lies behind a colour is seen. */
export const seeThrough = (colour: string | null): boolean => colour === null || (oklabOf(colour)?.[3] ?? 1) < 1
