import { readStored } from '@/core/edit'
import { alone } from '../alone'
import { keepAssets, upToDate } from '../assets'
import { asItIs } from './load'
import { type LoopRecord, loops, stored } from './records'

/** The id of the loop that a stored one is a variant of. */
export const variantSource = (raw: unknown): string | undefined =>
  (raw as { readonly variantOf?: { readonly id?: string } } | null | undefined)?.variantOf?.id

/**
 * Writes down what variants of some loops show, before those are deleted: without their sources they stay as they were seen last. Nothing that
 * is seen of them changes, and so their revisions do not.
 * @throws StorageError
 */
export async function keepFollowers(sources: ReadonlySet<string>): Promise<void> {
  const followers: (readonly [id: string, record: LoopRecord])[] = []
  await stored(() =>
    loops.iterate<LoopRecord | null, void>((record, id) => {
      const source = variantSource(record?.loop)
      if (record && source !== undefined && sources.has(source)) followers.push([id, record])
    }),
  )
  for (const [id, { loop: raw, revision }] of followers) {
    const own = readStored(await stored(() => upToDate(raw))).loop
    if (!own) continue
    const loop = await asItIs(own)
    await alone(() =>
      stored(async () => {
        const now = await loops.getItem<LoopRecord>(id)
        // Whoever saved it meanwhile wrote down what it showed.
        if (now?.revision !== revision) return
        const assets = await keepAssets(loop.media)
        await loops.setItem(id, { ...now, loop, media: [...new Set([...(now.media ?? []), ...assets])] })
      }),
    )
  }
}
