import type { FileFormat } from '@/core/clock'
import { CODEC_NAMES, type FileSettings } from '@/core/output'

/** Formats by the names that people know. */
export const FORMAT_NAMES: Readonly<Record<FileFormat, string>> = {
  gif: 'GIF',
  apng: 'APNG',
  webp: 'WebP',
  avif: 'AVIF',
  mp4: 'MP4',
  webm: 'WebM',
  svg: 'SVG',
  lottie: 'Lottie',
  'png-sequence': 'PNG sequence',
  'sprite-sheet': 'sprite sheet',
}

/** A size in bytes, for people: kB and MB of thousands. */
export const weightText = (bytes: number): string =>
  bytes < 1e6 ? `${(bytes / 1000).toFixed(bytes < 1e5 ? 1 : 0)} kB` : `${(bytes / 1e6).toFixed(2)} MB`

/** A few words on how settings differ from the defaults of their format. */
export function settingsText(settings: FileSettings): string {
  const { format, scale, every, colours, loss, dithering, lossless, quality, codec } = settings
  const video = format === 'mp4' || format === 'webm'
  return [
    `${Number(scale.toFixed(3))}×`,
    ...(every > 1 ? [`one frame of ${every}`] : []),
    ...(format === 'gif' ? [`${colours} colours`, ...(loss > 0 ? [`loss ${loss}`] : [])] : []),
    ...(format === 'gif' && dithering !== 'none' ? [dithering] : []),
    ...(format === 'webp' && lossless ? ['without loss'] : []),
    ...(video || format === 'avif' || (format === 'webp' && !lossless) ? [`quality ${quality}`] : []),
    ...(video ? [CODEC_NAMES[codec]] : []),
  ].join(', ')
}
