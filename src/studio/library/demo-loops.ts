import { assetsIn, keepAtHand, type Medium, type Verdict } from '@/core/media'
import { readInWorker } from '@/store/cards'
import { saveLoop } from '@/store/library/save'
import { keepKnown } from '@/store/library/verdicts'

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

/** Clips that come with the demo. */
export const DEMO_CLIPS = [
  { id: 'lamp-room-glass', name: 'Lamp-room glass' },
  { id: 'ferry-wake', name: 'Ferry wake' },
  { id: 'awning-and-gulls', name: 'Awning and gulls' },
] as const

const FILES = {
  picture: { ending: 'jpg', type: 'image/jpeg' },
  model: { ending: 'glb', type: 'model/gltf-binary' },
  clip: { ending: 'webm', type: 'video/webm' },
} as const

/** A still, model or clip of the demo as a file. @throws Error where it cannot be fetched, in words */
export async function demoFile(kind: keyof typeof FILES, id: string): Promise<File> {
  const { ending, type } = FILES[kind]
  const response = await fetch(`/api/demo/${id}.${ending}`)
  if (!response.ok) throw new Error('A file of the demo could not be fetched. Reload the page to try again.')
  return new File([await response.blob()], `${id}.${ending}`, { type })
}

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
      await fetchMedia(each.loop.media)
      await saveLoop(each.loop)
      await keepKnown(each.loop, verdicts)
    } else throw new Error(`A demo loop is damaged: ${each.problem}`)
}
