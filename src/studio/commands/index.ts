import { toast } from 'sonner'
import { LAYER_KINDS } from '@/core/layers'
import { currentLoop, documentStore, redo, undo } from '@/store/document'
import { frameNow, showFrame } from '@/store/playback'
import {
  FREEHAND_TOOL,
  MAX_STAGE_ZOOM,
  type Pace,
  PEN_TOOL,
  PIVOT_TOOL,
  RECORD_TOOL,
  setSession,
  useSession,
} from '@/store/session'
import { problemText, saveLoopFile } from '../files'
import { ALIGN_COMMANDS } from './align'
import { ARRANGE_COMMANDS } from './arrange'
import { CLIPBOARD_COMMANDS } from './clipboard'
import { type Command, needsSelection } from './command'
import { EFFECT_COMMANDS } from './effects'
import { FILE_COMMANDS } from './files'
import { addLayer, LAYER_COMMANDS } from './layers'
import { MOTION_COMMANDS } from './motion'
import { MOVE_COMMANDS } from './moves'
import { PANEL_COMMANDS } from './panels'
import { TAKEN_OVER_COMMANDS } from './taken-over'
import { TWIN_COMMANDS } from './twins'

export type { Command, View } from './command'
export { OFFERED_EFFECTS, putEffect } from './effects'
export { addLayer } from './layers'

const togglePlay = () => setSession(({ playing }) => ({ playing: !playing }))
const step = (by: number) => () => {
  setSession({ playing: false })
  showFrame(frameNow() + by)
}
/** Other views that can be looked at closely have a zoom of their own. */
const atStage = () => !/\/seam$/.test(globalThis.location?.pathname ?? '')
/** Draws the frame larger or smaller about the middle of the stage. */
const zoomBy = (by: number) => () => {
  const loop = currentLoop()
  if (!loop || !atStage()) return
  setSession(({ zoom }) => {
    const { factor, x, y } = zoom ?? { factor: 1, x: loop.width / 2, y: loop.height / 2 }
    return { zoom: { factor: Math.min(MAX_STAGE_ZOOM, Math.max(1 / 8, factor * by)), x, y } }
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

const drawing: Command[] = LAYER_KINDS.flatMap(({ kind, label, shortcut, drawn }) =>
  shortcut || drawn
    ? [
        {
          id: `draw-${kind}`,
          label: `Draw: ${label}`,
          section: 'Draw' as const,
          ...(shortcut && { keys: shortcut }),
          run: () => setSession({ tool: kind }),
        },
        {
          id: `add-${kind}`,
          label: `Add in the middle: ${label}`,
          section: 'Draw' as const,
          ...(shortcut && { keys: `shift+${shortcut}` }),
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
    id: 'pen',
    label: 'Draw a path with the pen',
    section: 'Draw',
    keys: 'w',
    run: () => setSession({ tool: PEN_TOOL }),
  },
  {
    id: 'freehand',
    label: 'Draw a path freehand',
    section: 'Draw',
    keys: 'f',
    run: () => setSession({ tool: FREEHAND_TOOL }),
  },
  {
    id: 'record',
    label: 'Record a motion by dragging',
    section: 'Motion',
    keys: 'q',
    run: () => {
      if (needsSelection()) setSession({ tool: RECORD_TOOL })
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
  ...LAYER_COMMANDS,
  ...TWIN_COMMANDS,
  ...TAKEN_OVER_COMMANDS,
  ...CLIPBOARD_COMMANDS,
  ...ARRANGE_COMMANDS,
  ...ALIGN_COMMANDS,
  ...EFFECT_COMMANDS,
  ...MOTION_COMMANDS,
  ...MOVE_COMMANDS,
  {
    id: 'select-none',
    label: 'Select nothing, leave a tool, a preview, or the stage alone',
    section: 'Layers',
    keys: 'escape',
    run: () =>
      setSession(({ preview, tool, stageAlone, selection: ids }) => ({
        preview: null,
        tool: null,
        stageAlone: stageAlone && (preview !== null || tool !== null),
        selection: preview || tool || stageAlone ? ids : [],
      })),
  },
  { id: 'closer', label: 'Closer to the frame', section: 'Views', keys: 'equal, shift+equal', run: zoomBy(1.25) },
  { id: 'farther', label: 'Farther from the frame', section: 'Views', keys: 'minus', run: zoomBy(0.8) },
  {
    id: 'tiled',
    label: 'The frame beside itself, as a tile, on or off',
    section: 'Views',
    keys: 'shift+z',
    run: () => {
      const loop = currentLoop()
      const { tiled } = useSession.getState()
      if (!loop) return
      // A third of its size, so that all nine are seen.
      const zoom = tiled ? null : { factor: 1 / 3, x: loop.width / 2, y: loop.height / 2 }
      setSession({ tiled: !tiled, zoom })
    },
  },
  {
    id: 'whole-frame',
    label: 'Show the whole frame',
    section: 'Views',
    keys: '0',
    run: () => setSession({ zoom: null }),
  },
  ...PANEL_COMMANDS,
  {
    id: 'stage-alone',
    label: 'The stage alone, or with its panels',
    section: 'Views',
    keys: 'shift+a',
    run: () => setSession(({ stageAlone }) => ({ stageAlone: !stageAlone })),
  },
  { id: 'library', label: 'Library', section: 'Views', keys: 'shift+b', run: (go) => go('library') },
  { id: 'file', label: 'Footage', section: 'Views', run: (go) => go('file') },
  { id: 'compose', label: 'Compose', section: 'Views', keys: 'shift+c', run: (go) => go('compose') },
  { id: 'seam-view', label: 'Seam', section: 'Views', keys: 'shift+s', run: (go) => go('seam') },
  { id: 'fit', label: 'Fit', section: 'Views', keys: 'shift+f', run: (go) => go('fit') },
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
    id: 'tour',
    label: 'Take the tour, or go on with it',
    section: 'Views',
    run: () => setSession({ tourAsked: true }),
  },
  {
    id: 'shortcuts',
    label: 'Shortcuts',
    section: 'Views',
    keys: 'shift+slash',
    run: () => setSession(({ shortcutSheet }) => ({ shortcutSheet: !shortcutSheet })),
  },
  {
    id: 'vary',
    label: 'Make a variant of the loop',
    section: 'File',
    keys: 'shift+v',
    run: () => setSession({ varying: true }),
  },
  { id: 'save-file', label: 'Save to a file', section: 'File', keys: 'mod+s', inFields: true, run: saveFileCommand },
  ...FILE_COMMANDS,
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
  bracketleft: '[',
  bracketright: ']',
  end: 'End',
  enter: 'Enter',
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
