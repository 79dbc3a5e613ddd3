import { toast } from 'sonner'
import { formatLoop, type Loop, parseLoop, removeLayers } from '@/core/document'
import { excerptOf, pasteLayers } from '@/core/edit'
import { changeLoop, currentLoop, documentStore } from '@/store/document'
import { setSession, useSession } from '@/store/session'
import { copyShownKeys, pasteCopiedKeys } from './commands/motion'

/** Where layers stand in the drawing that is copied: other programs see the drawing, Cyclon its layers. */
const OPENS = '<metadata id="cyclon-layers">'
const CLOSES = '</metadata>'

/** What the clipboard of the system holds where keys were copied, which stay in this page. */
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

/** A drawing (SVG) of layers that holds the layers themselves, too. */
export async function drawingOf(excerpt: Loop): Promise<string> {
  // Comes when layers are copied first.
  const [{ svgOf }, { embeddedPictures }] = await Promise.all([
    import('@/codecs/write/svg'),
    import('@/codecs/write/embedded'),
  ])
  const svg = svgOf(excerpt, 1, await embeddedPictures(excerpt))
  const end = svg.lastIndexOf('</svg>')
  return `${svg.slice(0, end)}${OPENS}${escaped(formatLoop(excerpt))}${CLOSES}${svg.slice(end)}`
}

/** The layers that stand in a text; null where none do. @throws LoopFileError where they are damaged */
export function layersIn(text: string): Loop | null {
  const from = text.indexOf(OPENS)
  const to = text.indexOf(CLOSES, from)
  return from < 0 || to < 0 ? null : parseLoop(unescaped(text.slice(from + OPENS.length, to)))
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
    // What the system has not taken is newer than what it holds.
    const own = latest && !latest.told ? latest.text : text || (latest?.text ?? '')
    if (own === KEYS_COPIED) return pasteCopiedKeys()
    const excerpt = layersIn(own)
    if (excerpt) return pasteExcerpt(excerpt)
    if (/^(<\?xml|<svg|<!--)/.test(own.trimStart())) {
      const { bringIn } = await import('./material')
      return await bringIn([new File([own], 'Pasted.svg', { type: 'image/svg+xml' })])
    }
    toast('There are no layers and no drawing to paste. Copy some first.')
  } catch (error) {
    toast.error((error as Error).message)
  }
}

function pasteExcerpt(excerpt: Loop): void {
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
