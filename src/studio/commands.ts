import { toast } from 'sonner'
import { LAYER_KINDS, layerKind } from '@/core/layers'
import {
  canUngroup,
  centrePivot,
  changeLayer,
  duplicateLayers,
  findPlace,
  freeName,
  groupLayers,
  insertLayers,
  type Layer,
  type Loop,
  moveLayer,
  newLayer,
  removeLayers,
  setValue,
  ungroup,
  valuesAt,
} from '@/core/loop'
import { changeLoop, documentStore, redo, undo } from '@/store/document'
import { frameNow, showFrame } from '@/store/playback'
import { LARGEST_ZOOM, type Pace, PIVOT_TOOL, setSession, useSession } from '@/store/session'
import { problemText, saveLoopFile } from './files'

export type View = 'library' | 'compose' | 'seam' | 'export'

/** Something that can be done: in the command list, and where it is frequent by a key. */
export interface Command {
  readonly id: string
  readonly label: string
  readonly section: 'Play' | 'Layers' | 'Draw' | 'Edit' | 'Views' | 'File'
  /** As react-hotkeys-hook writes it; several are parted by commas. */
  readonly keys?: string
  /** Whether the keys also work in a field, as long as nothing has been typed there that is not taken yet. */
  readonly inFields?: boolean
  readonly run: (go: (view: View) => void) => void
}

const selection = () => useSession.getState().selection
const selectedLayers = (loop: Loop): Layer[] => selection().flatMap((id) => findPlace(loop, id)?.layer ?? [])
const needsSelection = (): boolean => {
  if (selection().length > 0) return true
  toast('Select a layer first.')
  return false
}

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
  const before = documentStore.getState().loop
  changeLoop((loop) => groupLayers(loop, selection(), frameNow()))
  const after = documentStore.getState().loop
  const known = new Set(before ? allIds(before.layers) : [])
  const added = after ? allIds(after.layers).filter((id) => !known.has(id)) : []
  if (added.length > 0) setSession({ selection: added, property: null })
}
const allIds = (layers: readonly Layer[]): string[] => layers.flatMap((l) => [l.id, ...allIds(l.layers ?? [])])

function ungroupSelected() {
  const { loop } = documentStore.getState()
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
    const at = (name: 'x' | 'y', by: number) => (each: Layer) =>
      by === 0 ? each : setValue(each, name, Number(valueNow(each, name, loop)) + by, frameNow(), loop.length)
    return at('y', dy)(at('x', dx)(layer))
  })

const valueNow = (layer: Layer, name: string, loop: Loop) => valuesAt(layer, frameNow(), loop.length)[name]

/** Adds a layer of a kind in the middle of the frame: what a tool does without a mouse. */
export function addLayer(kind: string, values = {}): void {
  const { loop } = documentStore.getState()
  if (!loop) return
  const layer = newLayer(kind, freeName(loop, layerKind(kind).label), {
    x: loop.width / 2,
    y: loop.height / 2,
    ...values,
  })
  changeLoop((current) => insertLayers(current, [layer]))
  setSession({ selection: [layer.id], tool: null, property: null })
}

export const togglePlay = () => setSession(({ playing }) => ({ playing: !playing }))
const step = (by: number) => () => {
  setSession({ playing: false })
  showFrame(frameNow() + by)
}
/** Draws the frame larger or smaller about the middle of the stage. */
const zoomBy = (by: number) => () => {
  const { loop } = documentStore.getState()
  if (!loop) return
  setSession(({ zoom }) => {
    const { factor, x, y } = zoom ?? { factor: 1, x: loop.width / 2, y: loop.height / 2 }
    return { zoom: { factor: Math.min(LARGEST_ZOOM, Math.max(1 / 8, factor * by)), x, y } }
  })
}
const setPace = (pace: Pace) => () => setSession({ pace })

export const saveFileCommand = () => {
  const { loop } = documentStore.getState()
  if (!loop) return
  saveLoopFile(loop).then(
    (saved) => saved && toast.success(`${loop.name} was saved to a file.`),
    (error) => toast.error(problemText(error).title),
  )
}

const drawing: Command[] = LAYER_KINDS.flatMap(({ kind, label, shortcut }) =>
  shortcut
    ? [
        {
          id: `draw-${kind}`,
          label: `Draw: ${label}`,
          section: 'Draw' as const,
          keys: shortcut,
          run: () => setSession({ tool: kind }),
        },
        {
          id: `add-${kind}`,
          label: `Add in the middle: ${label}`,
          section: 'Draw' as const,
          keys: `shift+${shortcut}`,
          run: () => addLayer(kind),
        },
      ]
    : [],
)

/** Every command of the workspace. */
export const COMMANDS: readonly Command[] = [
  { id: 'play', label: 'Play or stop', section: 'Play', keys: 'space', run: togglePlay },
  { id: 'next', label: 'Next frame, across the seam', section: 'Play', keys: 'right', run: step(1) },
  { id: 'previous', label: 'Previous frame, across the seam', section: 'Play', keys: 'left', run: step(-1) },
  { id: 'ten-on', label: 'Ten frames on', section: 'Play', keys: 'shift+right', run: step(10) },
  { id: 'ten-back', label: 'Ten frames back', section: 'Play', keys: 'shift+left', run: step(-10) },
  { id: 'seam', label: 'Go to the seam (frame 0)', section: 'Play', keys: 'home', run: () => showFrame(0) },
  { id: 'last', label: 'Go to the last frame', section: 'Play', keys: 'end', run: () => showFrame(-1) },
  {
    id: 'around-seam',
    label: 'Play only around the seam',
    section: 'Play',
    keys: 'j',
    run: () => setSession(({ aroundSeam }) => ({ aroundSeam: !aroundSeam })),
  },
  { id: 'full-pace', label: 'Full pace', section: 'Play', keys: '1', run: setPace(1) },
  { id: 'half-pace', label: 'Half pace', section: 'Play', keys: '2', run: setPace(0.5) },
  { id: 'quarter-pace', label: 'Quarter pace', section: 'Play', keys: '4', run: setPace(0.25) },
  { id: 'select', label: 'Select and move', section: 'Draw', keys: 'v', run: () => setSession({ tool: null }) },
  ...drawing,
  {
    id: 'place-pivot',
    label: 'Place the pivot of the selected layer',
    section: 'Draw',
    keys: 'o',
    run: () => {
      if (needsSelection()) setSession(({ tool }) => ({ tool: tool === PIVOT_TOOL ? null : PIVOT_TOOL }))
    },
  },
  {
    id: 'snapping',
    label: 'Snapping on or off',
    section: 'Draw',
    keys: 'n',
    run: () => setSession(({ snapping }) => ({ snapping: !snapping })),
  },
  { id: 'undo', label: 'Undo', section: 'Edit', keys: 'mod+z', inFields: true, run: undo },
  { id: 'redo', label: 'Redo', section: 'Edit', keys: 'mod+shift+z, mod+y', inFields: true, run: redo },
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
  { id: 'forward', label: 'Bring one forward', section: 'Layers', keys: 'mod+up', run: () => order('front') },
  { id: 'backward', label: 'Send one backward', section: 'Layers', keys: 'mod+down', run: () => order('back') },
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
    run: () => setSession({ selection: documentStore.getState().loop?.layers.map(({ id }) => id) ?? [] }),
  },
  {
    id: 'select-none',
    label: 'Select nothing, leave a tool or a preview',
    section: 'Layers',
    keys: 'escape',
    run: () =>
      setSession(({ preview, tool, selection: ids }) => ({
        preview: null,
        tool: null,
        selection: preview || tool ? ids : [],
      })),
  },
  { id: 'closer', label: 'Closer to the frame', section: 'Views', keys: 'equal, shift+equal', run: zoomBy(1.25) },
  { id: 'farther', label: 'Farther from the frame', section: 'Views', keys: 'minus', run: zoomBy(0.8) },
  {
    id: 'whole-frame',
    label: 'Show the whole frame',
    section: 'Views',
    keys: '0',
    run: () => setSession({ zoom: null }),
  },
  { id: 'library', label: 'Library', section: 'Views', keys: 'shift+b', run: (go) => go('library') },
  { id: 'compose', label: 'Compose', section: 'Views', keys: 'shift+c', run: (go) => go('compose') },
  { id: 'seam-view', label: 'Seam', section: 'Views', keys: 'shift+s', run: (go) => go('seam') },
  { id: 'export', label: 'Export', section: 'Views', keys: 'shift+x', run: (go) => go('export') },
  {
    id: 'commands',
    label: 'Command list',
    section: 'Views',
    keys: 'mod+k',
    inFields: true,
    run: () => setSession(({ commandList }) => ({ commandList: !commandList })),
  },
  {
    id: 'shortcuts',
    label: 'Shortcuts',
    section: 'Views',
    keys: 'shift+slash',
    run: () => setSession(({ shortcutSheet }) => ({ shortcutSheet: !shortcutSheet })),
  },
  { id: 'save-file', label: 'Save to a file', section: 'File', keys: 'mod+s', inFields: true, run: saveFileCommand },
]

const WORDS: Record<string, string> = {
  mod: 'Ctrl',
  shift: 'Shift',
  alt: 'Alt',
  left: '←',
  right: '→',
  up: '↑',
  down: '↓',
  space: 'Space',
  escape: 'Esc',
  delete: 'Del',
  backspace: 'Backspace',
  home: 'Home',
  equal: '+',
  minus: '−',
  end: 'End',
}

/** A command's first key as it is printed on the keyboard: `Ctrl Shift Z`. */
export function keysText(keys: string): string {
  const [first = ''] = keys.split(',')
  if (first === 'shift+slash') return '?'
  return first
    .trim()
    .split('+')
    .map((key) => WORDS[key] ?? key.toUpperCase())
    .join(' ')
}

const byId = new Map(COMMANDS.map((command) => [command.id, command]))

/** The key of a command, for tooltips. */
export const shortcutOf = (id: string): string | undefined => {
  const keys = byId.get(id)?.keys
  return keys && keysText(keys)
}

/** Runs a command that needs no other view. */
export const runCommand = (id: string): void => byId.get(id)?.run(() => {})
