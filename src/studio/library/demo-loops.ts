import { assetsIn, keepAtHand, type Medium, type Verdict } from '@/core/media'
import { readInWorker } from '@/store/cards'
import { heldAs, saveLoop } from '@/store/library/save'
import { keepKnown } from '@/store/library/verdicts'
import { demoFile } from '../demo-files'

/** Stills that a cinemagraph can begin with where nobody has one at hand. */
export const DEMO_STILLS = [
  { id: 'pier-at-night', name: 'Pier at night' },
  { id: 'breakwater', name: 'Breakwater' },
] as const

/** Models that a turntable can begin with. */
export const DEMO_MODELS = [
  { id: 'mooring-buoy', name: 'Mooring buoy' },
  { id: 'capstan', name: 'Capstan' },
  { id: 'signal-lamp', name: 'Signal lamp' },
] as const

/** Takes the files to hand that demo loops are drawn from: each is called by the id of its medium. */
async function fetchMedia(media: readonly Medium[]): Promise<void> {
  for (const medium of media) {
    const file = await demoFile(medium.kind === 'model' ? 'model' : 'picture', medium.id)
    keepAtHand(new Map(assetsIn([medium]).map(({ id }) => [id, file])))
  }
}

/** Puts the demo loops into the library. @throws Error where they cannot be fetched, in words */
export async function addDemoLoops(): Promise<void> {
  const response = await fetch('/api/demo')
  if (!response.ok) throw new Error('The demo loops could not be fetched. Reload the page to try again.')
  const { loops, verdicts } = (await response.json()) as {
    readonly loops: readonly unknown[]
    readonly verdicts: Readonly<Record<string, Verdict>>
  }
  const read = await readInWorker([...loops].reverse().map((raw, i) => ({ id: String(i), raw })))
  for (const each of read)
    if (each.loop) {
      // Where they were fetched in part before, what has been made of them since is left alone.
      if (await heldAs(each.loop.id)) continue
      await fetchMedia(each.loop.media)
      await saveLoop(each.loop)
      await keepKnown(each.loop, verdicts)
    } else throw new Error(`A demo loop is damaged: ${each.problem}`)
}
