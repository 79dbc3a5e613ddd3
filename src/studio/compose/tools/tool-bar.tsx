'use client'

import {
  Brush,
  CircleDashed,
  Circle as CircleIcon,
  Crosshair,
  Disc3,
  Film,
  Image,
  LayoutGrid,
  Link2,
  Magnet,
  MousePointer2,
  Pencil,
  PenTool,
  Rows3,
  Scissors,
} from 'lucide-react'
import { LAYER_KINDS, type LayerKind } from '@/core/layers'
import {
  BRUSH_TOOL,
  FREEHAND_TOOL,
  PEN_TOOL,
  PIVOT_TOOL,
  RECORD_TOOL,
  setSession,
  useSessionParts,
} from '@/store/session'
import { addLayer, runCommand, shortcutOf } from '../../commands'
import { classNames, IconButton } from '../../parts'
import { KindIcon } from './kind-icon'

/** Instructions for each tool. */
const HINTS: Readonly<Record<string, string>> = {
  [PIVOT_TOOL]: 'Press where the layer is to turn about, on a model on its surface; Esc leaves the tool.',
  [PEN_TOOL]: 'Press for corners, drag for curves; the first point closes, Enter ends it open.',
  [FREEHAND_TOOL]: 'Draw; let go near the begin to close it.',
  [BRUSH_TOOL]: 'Paint; Alt takes away, [ and ] change the size, Esc leaves the brush.',
  [RECORD_TOOL]: 'Hold and drag: the loop plays and the drag becomes a motion.',
}

/** Words for a tool, with its key if it has one. */
function drawWords({ kind, label }: LayerKind): string {
  const draw = shortcutOf(`draw-${kind}`)
  const add = shortcutOf(`add-${kind}`)
  return `Draw: ${label}${draw ? ` (${draw})` : ''}; Enter adds one in the middle${add ? ` (${add})` : ''}`
}

/** The tools: select, or draw one of the kinds of layers by a drag; Enter puts one in the middle of the frame. */
export function ToolBar() {
  const { tool, snapping, tiled } = useSessionParts('tool', 'snapping', 'tiled')
  return (
    <div
      className="hairline flex min-h-8 flex-wrap items-center gap-0.5 border-b bg-base-100 px-2"
      role="toolbar"
      aria-label="Tools"
    >
      <IconButton
        icon={MousePointer2}
        label="Select and move"
        shortcut={shortcutOf('select')}
        pressed={tool === null}
        onClick={() => setSession({ tool: null })}
      />
      {LAYER_KINDS.filter(({ shortcut, drawn }) => shortcut || drawn).map((kind) => (
        <button
          key={kind.kind}
          type="button"
          className={classNames('btn btn-ghost btn-xs btn-square', tool === kind.kind && 'bg-neutral text-primary')}
          aria-label={`Draw: ${kind.label}`}
          aria-pressed={tool === kind.kind}
          title={drawWords(kind)}
          onClick={() => setSession({ tool: tool === kind.kind ? null : kind.kind })}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return
            event.preventDefault()
            addLayer(kind.kind)
          }}
        >
          <KindIcon kind={kind} />
        </button>
      ))}
      <IconButton
        icon={PenTool}
        label="Draw a path with the pen"
        shortcut={shortcutOf('pen')}
        pressed={tool === PEN_TOOL}
        onClick={() => runCommand('pen')}
      />
      <IconButton
        icon={Pencil}
        label="Draw a path freehand"
        shortcut={shortcutOf('freehand')}
        pressed={tool === FREEHAND_TOOL}
        onClick={() => runCommand('freehand')}
      />
      <IconButton
        icon={Brush}
        label="Paint a mask of the selected layers"
        shortcut={shortcutOf('paint-mask')}
        pressed={tool === BRUSH_TOOL}
        onClick={() => runCommand('paint-mask')}
      />
      <IconButton
        icon={Image}
        label="Bring in pictures or SVG files"
        shortcut={shortcutOf('bring-in')}
        onClick={() => runCommand('bring-in')}
      />
      <IconButton
        icon={Film}
        label="Place a loop of the library"
        shortcut={shortcutOf('place-loop')}
        onClick={() => runCommand('place-loop')}
      />
      <span className="hairline mx-1 h-4 border-s" />
      <IconButton icon={Rows3} label="Copies" shortcut={shortcutOf('copies')} onClick={() => runCommand('copies')} />
      <IconButton
        icon={CircleDashed}
        label="Copies along the last selected figure"
        shortcut={shortcutOf('copies-along')}
        onClick={() => runCommand('copies-along')}
      />
      <IconButton
        icon={Disc3}
        label="Belt round the selected layers"
        shortcut={shortcutOf('belt')}
        onClick={() => runCommand('belt')}
      />
      <IconButton
        icon={Link2}
        label="Chain round the selected layers"
        shortcut={shortcutOf('chain')}
        onClick={() => runCommand('chain')}
      />
      <IconButton
        icon={Scissors}
        label="Mask with the frontmost of the selected layers"
        shortcut={shortcutOf('mask')}
        onClick={() => runCommand('mask')}
      />
      <span className="hairline mx-1 h-4 border-s" />
      <IconButton
        icon={CircleIcon}
        label="Record a motion by dragging"
        shortcut={shortcutOf('record')}
        pressed={tool === RECORD_TOOL}
        onClick={() => runCommand('record')}
      />
      <IconButton
        icon={Crosshair}
        label="Place the pivot"
        shortcut={shortcutOf('place-pivot')}
        pressed={tool === PIVOT_TOOL}
        onClick={() => runCommand('place-pivot')}
      />
      <span className="hairline mx-1 h-4 border-s" />
      <IconButton
        icon={Magnet}
        label="Snapping"
        shortcut={shortcutOf('snapping')}
        pressed={snapping}
        onClick={() => runCommand('snapping')}
      />
      <IconButton
        icon={LayoutGrid}
        label="The frame beside itself, as a tile"
        shortcut={shortcutOf('tiled')}
        pressed={tiled}
        onClick={() => runCommand('tiled')}
      />
      {tool && (
        <span className="dim ms-2 min-w-0 truncate text-2xs">
          {HINTS[tool] ?? 'Drag on the frame to draw; Shift keeps it even, Esc leaves the tool.'}
        </span>
      )}
    </div>
  )
}
