import { toast } from 'sonner'
import { changeLayer, findLayer, type Layer } from '@/core/document'
import { ALIKE, type Alike, editOf, likeThese, repeatEdit, withMotionsOf, withStyleOf } from '@/core/edit'
import { changeLoop, currentLoop, lastStep } from '@/store/document'
import { setSession } from '@/store/session'
import { type Command, needsSelection, selectedLayers, selection } from './command'

/** The layer whose style or motions were copied last, as it was. */
let source: Layer | null = null

function copyFrom(what: string): void {
  const loop = currentLoop()
  const [layer] = loop ? selectedLayers(loop) : []
  if (!layer) return void toast('Select a layer first.')
  source = layer
  toast(`The ${what} of ${layer.name} can be pasted on other layers.`)
}

function pasteOn(change: (layer: Layer, other: Layer) => Layer): void {
  const other = source
  if (!other) return void toast('Copy the style or the motions of a layer first.')
  if (!needsSelection()) return
  const ids = selection()
  changeLoop((loop) =>
    ids.reduce(
      (made, id) => (findLayer(made, id) ? changeLayer(made, id, (layer) => change(layer, other)) : made),
      loop,
    ),
  )
}

/** Does to the selected layers what the last step of the history did to a layer. */
function repeatLastEdit(): void {
  const loop = currentLoop()
  if (!loop || !needsSelection()) return
  const before = lastStep()
  const edit = before && editOf(before, loop)
  if (!edit) return void toast('Change a layer first: what was done to it can then be repeated on others.')
  changeLoop((current) => repeatEdit(current, selection(), edit))
}

const WORDS: Readonly<Record<Alike, string>> = {
  kind: 'Select all layers of this kind',
  colour: 'Select all layers of this colour',
  motion: 'Select all layers in which the same moves',
}

export const TAKEN_OVER_COMMANDS: readonly Command[] = [
  {
    id: 'copy-style',
    label: 'Copy the style of the selected layer',
    section: 'Edit',
    keys: 'mod+alt+c',
    run: () => copyFrom('style'),
  },
  {
    id: 'paste-style',
    label: 'Paste the style on the selected layers',
    section: 'Edit',
    keys: 'mod+alt+v',
    run: () => pasteOn(withStyleOf),
  },
  {
    id: 'copy-motions',
    label: 'Copy the motions of the selected layer',
    section: 'Motion',
    keys: 'mod+alt+m',
    run: () => copyFrom('motions'),
  },
  {
    id: 'paste-motions',
    label: 'Paste the motions on the selected layers, from where they stand',
    section: 'Motion',
    keys: 'mod+alt+p',
    run: () => pasteOn(withMotionsOf),
  },
  {
    id: 'repeat-edit',
    label: 'Repeat the last edit on the selected layers',
    section: 'Edit',
    keys: 'shift+k',
    run: repeatLastEdit,
  },
  ...ALIKE.map(
    (by): Command => ({
      id: `select-${by}`,
      label: WORDS[by],
      section: 'Layers',
      run: () => {
        const loop = currentLoop()
        if (loop && needsSelection()) setSession({ selection: likeThese(loop, selection(), by), property: null })
      },
    }),
  ),
]
