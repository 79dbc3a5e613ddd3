import * as z from 'zod/mini'
import { number, text } from '../schemas'
import { PLAIN_SETTINGS, settingsSchema } from './settings'

/** A target: how a file is written, and what it may weigh. */
export const targetSchema = z.strictObject({
  id: text(60, 1),
  name: text(80, 1),
  settings: settingsSchema,
  /** kB of 1000 bytes; null for any. */
  limit: z.nullable(number(1, 1e6)),
})
export type Target = z.infer<typeof targetSchema>

/** Targets that are there from the beginning. */
export const TARGETS: readonly Target[] = [
  {
    id: 'loader',
    name: 'Loader for the web',
    limit: 60,
    settings: { ...PLAIN_SETTINGS, format: 'webp', background: 'removed' },
  },
  {
    id: 'background',
    name: 'Page background',
    limit: 1500,
    settings: { ...PLAIN_SETTINGS, format: 'webm', codec: 'vp9', quality: 60 },
  },
  {
    id: 'app',
    name: 'App animation',
    limit: 200,
    settings: { ...PLAIN_SETTINGS, format: 'lottie', background: 'removed' },
  },
  {
    id: 'sprite',
    name: 'Sprite for an engine',
    limit: null,
    settings: { ...PLAIN_SETTINGS, format: 'sprite-sheet', background: 'removed', sides: 'powers of two' },
  },
  {
    id: 'projection',
    name: 'Projection',
    limit: null,
    settings: { ...PLAIN_SETTINGS, format: 'mp4', codec: 'avc', quality: 100, repeats: 10 },
  },
  {
    id: 'sticker',
    name: 'Chat sticker',
    limit: 250,
    settings: { ...PLAIN_SETTINGS, format: 'webp', background: 'removed', lossless: false, quality: 75 },
  },
]
