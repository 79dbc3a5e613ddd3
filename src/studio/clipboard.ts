import { toast } from 'sonner'
import { fromBase64, toBase64 } from '@/core/base64'
import { formatLoop, type Loop, parseLoop, removeLayers } from '@/core/document'
import { excerptOf, pasteLayers } from '@/core/edit'
import { assetsIn, fileOf, type Medium } from '@/core/media'
import { changeLoop, currentLoop, documentStore } from '@/store/document'
import { setSession, useSession } from '@/store/session'
import { copyShownKeys, pasteCopiedKeys } from './commands/motion'
import { readLoopBytes } from './files'

/** Where layers stand in the drawing that is copied: other programs see the drawing, Cyclon its layers. */
const OPENS = '<metadata id="cyclon-layers">'
const CLOSES = '</metadata>'
/** Layers with the files that they show are a project archive, in base64, behind this. */
const ARCHIVE = 'zip:'
/** Files of layers are copied with them up to this size, bytes: clipboards hold text. */
const MAX_COPIED_BYTES = 16 * 1024 * 1024

/** Text put on the system's clipboard when keys are copied; the keys themselves stay in this page. */
const KEYS_COPIED = 'keys of a motion in Cyclon'
/** The text of what was copied last in this page, and whether the system has taken it. */
let latest: { readonly text: string; readonly told: boolean } | null = null

/** Hands a text to the clipboard of the system, which may be closed. */
async function hand(text: string): Promise<boolean> {
  const told = await navigator.clipboard.writeText(text).then(
    () => true,
    () => false,
  )
  latest = { text, told }
  return told
}

const escaped = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')
const unescaped = (text: string): string =>
  text.replaceAll('&lt;', '<').replaceAll('&gt;', '>').replaceAll('&amp;', '&')

const sizeOf = (media: readonly Medium[]): number => assetsIn(media).reduce((sum, { bytes }) => sum + bytes, 0)

/** Media of which a file is neither in this browser nor came with them. */
async function missingOf(media: readonly Medium[]): Promise<Medium[]> {
  const missing: Medium[] = []
  for (const medium of media)
    for (const { id } of assetsIn([medium])) if (!missing.includes(medium) && !(await fileOf(id))) missing.push(medium)
  return missing
}

/** A drawing (SVG) of layers that holds the layers themselves, too, and the files that they show unless those are large. */
export async function drawingOf(excerpt: Loop): Promise<string> {
  // Comes when layers are copied first.
  const [{ svgOf }, { embeddedPictures }] = await Promise.all([
    import('@/codecs/write/svg'),
    import('@/codecs/write/embedded'),
  ])
  const svg = svgOf(excerpt, 1, await embeddedPictures(excerpt))
  const end = svg.lastIndexOf('</svg>')
  const { media } = excerpt
  const holdsFiles = media.length > 0 && sizeOf(media) <= MAX_COPIED_BYTES && (await missingOf(media)).length === 0
  const layers = holdsFiles
    ? `${ARCHIVE}${toBase64(await (await import('@/codecs/project')).zipProject(excerpt))}`
    : escaped(formatLoop(excerpt))
  return `${svg.slice(0, end)}${OPENS}${layers}${CLOSES}${svg.slice(end)}`
}

/** The layers that stand in a text, their files taken to hand; null where none do. @throws LoopFileError where they are damaged */
export async function layersIn(drawing: string): Promise<Loop | null> {
  const from = drawing.indexOf(OPENS)
  const to = drawing.indexOf(CLOSES, from)
  if (from < 0 || to < 0) return null
  const layers = drawing.slice(from + OPENS.length, to)
  if (layers.startsWith(ARCHIVE)) return readLoopBytes(fromBase64(layers.slice(ARCHIVE.length)))
  const text = unescaped(layers)
  const excerpt = parseLoop(text)
  // Any page may have put them there: what models measure is seen in their files.
  return excerpt.media.some(({ kind }) => kind === 'model') ? readLoopBytes(new TextEncoder().encode(text)) : excerpt
}

/** Copies the chosen keys of the motion that is shown; where none are chosen, the selected layers. */
export async function copy(): Promise<void> {
  const { selection, keys } = useSession.getState()
  const loop = currentLoop()
  if (!loop) return
  if (keys.length > 0) {
    copyShownKeys()
    await hand(KEYS_COPIED)
    return
  }
  if (selection.length === 0) return void toast('Select a layer first.')
  const excerpt = excerptOf(loop, selection)
  const told = (await hand(await drawingOf(excerpt)))
    ? 'also in another loop or tab, and as a drawing in other programs'
    : 'in this tab'
  const count = excerpt.layers.length
  toast(count === 1 ? `${excerpt.layers[0]?.name} is copied.` : `${count} layers are copied.`, {
    description: `They can be pasted ${told}.`,
  })
}

/** Copies the selected layers and takes them away. */
export async function cut(): Promise<void> {
  const { selection } = useSession.getState()
  if (selection.length === 0) return void toast('Select a layer first.')
  setSession({ keys: [] })
  await copy()
  changeLoop((loop) => removeLayers(loop, selection))
  setSession({ selection: [], property: null })
}

/** Pastes what a text holds: layers, a drawing; what was copied last in this page where it is none. */
async function pasteText(text: string): Promise<void> {
  try {
    // Text that the system did not take is newer than the system's.
    const own = latest && !latest.told ? latest.text : text || (latest?.text ?? '')
    if (own === KEYS_COPIED) return pasteCopiedKeys()
    const excerpt = await layersIn(own)
    if (excerpt) return await pasteExcerpt(excerpt)
    if (/^(<\?xml|<svg|<!--)/.test(own.trimStart())) {
      const { bringIn } = await import('./material')
      return await bringIn([new File([own], 'Pasted.svg', { type: 'image/svg+xml' })])
    }
    toast('There are no layers and no drawing to paste. Copy some first.')
  } catch (error) {
    toast.error((error as Error).message)
  }
}

/** Pastes layers; those that show files which are not here are left out, which is said. */
async function pasteExcerpt(copied: Loop): Promise<void> {
  const missing = await missingOf(copied.media)
  const isWhole = (id: string) => excerptOf(copied, [id]).media.every((medium) => !missing.includes(medium))
  const whole = copied.layers.flatMap(({ id }) => (isWhole(id) ? [id] : []))
  if (missing.length > 0)
    toast.error(
      `${missing.map(({ name }) => `“${name}”`).join(', ')} ${missing.length === 1 ? 'is' : 'are'} not in this browser, and too large for the clipboard.`,
      {
        description:
          'The layers that show it were left out. Save the loop to a file where they were copied, and open that here.',
        duration: 12_000,
      },
    )
  if (whole.length === 0) return
  const excerpt = missing.length > 0 ? excerptOf(copied, whole) : copied
  let pasted: string[] = []
  const { inside } = documentStore.getState()
  const changed = changeLoop((loop) => {
    const made = pasteLayers(loop, excerpt, inside)
    pasted = made.ids
    return made.loop
  })
  if (changed) setSession({ selection: pasted, property: null })
}

/** Pastes files, where there are any and no text beside them, or a text. */
export async function pasted(files: readonly File[], text: string): Promise<void> {
  if (files.length === 0 || text) return pasteText(text)
  const { bringIn } = await import('./material')
  await bringIn(files)
}

/** Pastes from the command list. */
export const paste = async (): Promise<void> => pasteText(await navigator.clipboard.readText().catch(() => ''))
