import { readInWorker } from '@/store/cards'
import { saveLoop } from '@/store/library/save'

/** Puts the demo loops into the library. @throws Error where they cannot be fetched, in words */
export async function addDemoLoops(): Promise<void> {
  const response = await fetch('/api/demo')
  if (!response.ok) throw new Error('The demo loops could not be fetched. Reload the page to try again.')
  const raw: unknown = await response.json()
  const read = await readInWorker(
    (Array.isArray(raw) ? raw.reverse() : []).map((each, i) => ({ id: String(i), raw: each })),
  )
  for (const each of read)
    if (each.loop) await saveLoop(each.loop)
    else throw new Error(`A demo loop is damaged: ${each.problem}`)
}
