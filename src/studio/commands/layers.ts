import { toast } from 'sonner'
import { changeLayer, findPlace, insertLayers, type Layer, type Loop, moveLayer, removeLayers } from '@/core/document'
import {
  canUngroup,
  centrePivot,
  duplicateLayers,
  freeName,
  groupLayers,
  newLayer,
  setValue,
  standsInFrame,
  ungroup,
} from '@/core/edit'
import { valuesAt } from '@/core/evaluate'
import { layerKind } from '@/core/layers'
import { changeLoop, currentLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { setSession } from '@/store/session'
import { type Command, needsSelection, selectedLayers, selection } from './command'

const eachSelected = (change: (layer: Layer, loop: Loop) => Layer) => {
  if (needsSelection())
    changeLoop((loop) =>
      selection().reduce((current, id) => changeLayer(current, id, (layer) => change(layer, current)), loop),
    )
}

/** Takes the selected layers away; undo brings them back. */
function deleteSelected() {
  if (!needsSelection()) return
  const ids = selection()
  changeLoop((loop) => removeLayers(loop, ids))
  setSession({ selection: [], property: null })
}

function groupSelected() {
  if (!needsSelection()) return
  const before = currentLoop()
  changeLoop((loop) => groupLayers(loop, selection(), frameNow()))
  const after = currentLoop()
  const known = new Set(before ? allIds(before.layers) : [])
  const added = after ? allIds(after.layers).filter((id) => !known.has(id)) : []
  if (added.length > 0) setSession({ selection: added, property: null })
}
const allIds = (layers: readonly Layer[]): string[] => layers.flatMap((l) => [l.id, ...allIds(l.layers ?? [])])

function ungroupSelected() {
  const loop = currentLoop()
  const groups = loop ? selectedLayers(loop).filter((layer) => layer.layers) : []
  if (groups.length === 0) return void toast('Select a group first.')
  const free = groups.filter(canUngroup)
  if (free.length < groups.length)
    toast.error(
      'A group that moves, fades, blends or scales unevenly cannot be taken apart without changing the picture.',
    )
  for (const group of free) changeLoop((current) => ungroup(current, group.id))
  const selected = groups.flatMap((group) =>
    free.includes(group) ? (group.layers ?? []).map(({ id }) => id) : [group.id],
  )
  if (free.length > 0) setSession({ selection: selected, property: null })
}

/** Moves the selected layer past its neighbour in front or behind. */
function order(side: 'front' | 'back') {
  if (!needsSelection()) return
  changeLoop((loop) =>
    selection().reduce((current, id) => {
      const place = findPlace(current, id)
      const siblings = place?.parents.at(-1)?.layers ?? current.layers
      const neighbour = place && siblings[place.index + (side === 'front' ? 1 : -1)]
      return neighbour ? moveLayer(current, id, { id: neighbour.id, side }) : current
    }, loop),
  )
}

/** Moves the selected layers on the stage, px. */
const nudge = (dx: number, dy: number) => () =>
  eachSelected((layer, loop) => {
    if (!standsInFrame(layer)) return layer
    const at = (name: 'x' | 'y', by: number) => (each: Layer) =>
      by === 0 ? each : setValue(each, name, Number(valueNow(each, name, loop)) + by, frameNow(), loop.length)
    return at('y', dy)(at('x', dx)(layer))
  })

const valueNow = (layer: Layer, name: string, loop: Loop) => valuesAt(layer, frameNow(), loop.length)[name]

/** Adds a layer of a kind in the middle of the frame: what a tool does without a mouse. */
export function addLayer(kind: string, values = {}): void {
  const loop = currentLoop()
  if (!loop) return
  const layer = newLayer(kind, freeName(loop, layerKind(kind).label), {
    x: loop.width / 2,
    y: loop.height / 2,
    ...values,
  })
  changeLoop((current) => insertLayers(current, [layer]))
  setSession({ selection: [layer.id], tool: null, property: null })
}

/** Commands on existing layers. */
export const LAYER_COMMANDS: readonly Command[] = [
  {
    id: 'delete',
    label: 'Delete the selected layers',
    section: 'Layers',
    keys: 'delete, backspace',
    run: deleteSelected,
  },
  {
    id: 'duplicate',
    label: 'Duplicate the selected layers',
    section: 'Layers',
    keys: 'mod+d',
    run: () => {
      if (!needsSelection()) return
      let copies: string[] = []
      changeLoop((loop) => {
        const result = duplicateLayers(loop, selection())
        copies = result.copies
        return result.loop
      })
      setSession({ selection: copies })
    },
  },
  { id: 'group', label: 'Group the selected layers', section: 'Layers', keys: 'mod+g', run: groupSelected },
  { id: 'ungroup', label: 'Take the group apart', section: 'Layers', keys: 'mod+shift+g', run: ungroupSelected },
  { id: 'forward', label: 'Bring one step forward', section: 'Layers', keys: 'mod+up', run: () => order('front') },
  { id: 'backward', label: 'Send one step back', section: 'Layers', keys: 'mod+down', run: () => order('back') },
  {
    id: 'hide',
    label: 'Hide or show the selected layers',
    section: 'Layers',
    keys: 'h',
    run: () => eachSelected((layer) => ({ ...layer, hidden: !layer.hidden })),
  },
  {
    id: 'lock',
    label: 'Lock or unlock the selected layers',
    section: 'Layers',
    keys: 'k',
    run: () => eachSelected((layer) => ({ ...layer, locked: !layer.locked })),
  },
  {
    id: 'centre-pivot',
    label: 'Centre the pivot',
    section: 'Layers',
    keys: 'c',
    run: () => eachSelected((layer, loop) => centrePivot(layer, frameNow(), loop.length)),
  },
  { id: 'nudge-left', label: 'Move left by 1 px', section: 'Layers', keys: 'alt+left', run: nudge(-1, 0) },
  { id: 'nudge-right', label: 'Move right by 1 px', section: 'Layers', keys: 'alt+right', run: nudge(1, 0) },
  { id: 'nudge-up', label: 'Move up by 1 px', section: 'Layers', keys: 'alt+up', run: nudge(0, -1) },
  { id: 'nudge-down', label: 'Move down by 1 px', section: 'Layers', keys: 'alt+down', run: nudge(0, 1) },
  {
    id: 'select-all',
    label: 'Select all layers',
    section: 'Layers',
    keys: 'mod+a',
    run: () => setSession({ selection: currentLoop()?.layers.map(({ id }) => id) ?? [] }),
  },
]
