import { type Asset, LOST_ID } from '../media'

/** A medium as versions 1 and 2 wrote it: its files in base64 in the document itself, or empty where they were kept apart. */
export interface OldMedium {
  readonly id: string
  readonly name: string
  readonly type: string
  readonly data: readonly string[]
  /** True for one file, false for several in a row. */
  readonly single: boolean
}

type Fields = Readonly<Record<string, unknown>>
const fieldsOf = (value: unknown): Fields => (typeof value === 'object' && value !== null ? (value as Fields) : {})
const listOf = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : [])
const textOf = (value: unknown): string => (typeof value === 'string' ? value : '')

const isOld = ({ version }: Fields): boolean => version === 1 || version === 2

/** Media of a document of version 1 or 2; empty for any other version. */
export function oldMedia(raw: unknown): OldMedium[] {
  const loop = fieldsOf(raw)
  if (!isOld(loop)) return []
  const entry = (medium: unknown, data: (fields: Fields) => readonly unknown[], single: boolean): OldMedium => {
    const fields = fieldsOf(medium)
    return {
      id: textOf(fields.id),
      name: textOf(fields.name),
      type: textOf(fields.type),
      data: data(fields).map(textOf),
      single,
    }
  }
  return [
    ...listOf(loop.pictures).map((each) => entry(each, ({ data }) => [data], true)),
    ...listOf(loop.clips).map((each) => entry(each, ({ frames }) => listOf(frames), false)),
  ]
}

/** The file of a medium of which nothing is left. */
const lost = (type: unknown, parts?: number): Asset => ({
  id: LOST_ID,
  type: textOf(type) || 'image/png',
  bytes: 0,
  ...(parts === undefined ? {} : { parts: new Array<number>(parts).fill(0) }),
})

/**
 * A document of version 1 or 2 as version 3 writes it; any other as it is. Whether it is sound is for the schema to say.
 * @param assets what its media are in version 3, by their ids; those that are not there are lost
 */
export function migrated(raw: unknown, assets: ReadonlyMap<string, Asset>): unknown {
  const loop = fieldsOf(raw)
  if (!isOld(loop)) return raw
  const { pictures = [], clips = [], ...rest } = loop
  if (!Array.isArray(pictures) || !Array.isArray(clips)) return { ...rest, version: 3, media: null }
  return {
    ...rest,
    version: 3,
    media: [
      ...pictures.map((each) => {
        const { data: _data, type, ...picture } = fieldsOf(each)
        return { kind: 'picture', ...picture, file: assets.get(textOf(picture.id)) ?? lost(type) }
      }),
      ...clips.map((each) => {
        const { frames, type, ...clip } = fieldsOf(each)
        return { kind: 'clip', ...clip, frames: assets.get(textOf(clip.id)) ?? lost(type, listOf(frames).length) }
      }),
    ],
  }
}
