'use client'

import { Crosshair, Magnet, MousePointer2, RotateCcwSquare } from 'lucide-react'
import { defaultValues, LAYER_KINDS, type LayerKind } from '@/core/layers'
import { svgPathData } from '@/core/path'
import { PIVOT_TOOL, setSession, useSessionParts } from '@/store/session'
import { addLayer, runCommand, shortcutOf } from '../commands'
import { classNames, IconButton } from '../parts'

/** A kind of layer as an icon: its own outline, drawn small. */
export function KindIcon({ kind, size = 15 }: { kind: LayerKind; size?: number }) {
  const values = { ...defaultValues(kind.properties) }
  const box = kind.bounds(values)
  if (!kind.outline || !box) return <RotateCcwSquare size={size} aria-hidden="true" />
  const reach = Math.max(box.width, box.height, 1) * 0.62
  return (
    <svg width={size} height={size} viewBox={`${-reach} ${-reach} ${2 * reach} ${2 * reach}`} aria-hidden="true">
      <path
        d={svgPathData(kind.outline(values))}
        fill="none"
        stroke="currentColor"
        strokeWidth={reach / 5}
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  )
}

/** The tools: select, or draw one of the kinds of layers by a drag; Enter puts one in the middle of the frame. */
export function ToolBar() {
  const { tool, snapping } = useSessionParts('tool', 'snapping')
  return (
    <div className="hairline flex h-8 items-center gap-0.5 border-b bg-base-100 px-2" role="toolbar" aria-label="Tools">
      <IconButton
        icon={MousePointer2}
        label="Select and move"
        shortcut={shortcutOf('select')}
        pressed={tool === null}
        onClick={() => setSession({ tool: null })}
      />
      {LAYER_KINDS.filter(({ shortcut }) => shortcut).map((kind) => (
        <button
          key={kind.kind}
          type="button"
          className={classNames('btn btn-ghost btn-xs btn-square', tool === kind.kind && 'bg-neutral text-primary')}
          aria-label={`Draw: ${kind.label}`}
          aria-pressed={tool === kind.kind}
          title={`Draw: ${kind.label} (${shortcutOf(`draw-${kind.kind}`)}); Enter adds one in the middle (${shortcutOf(`add-${kind.kind}`)})`}
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
      {tool && (
        <span className="dim ms-2 text-2xs">
          {tool === PIVOT_TOOL
            ? 'Press where the layer is to turn about; Esc leaves the tool.'
            : 'Drag on the frame to draw; Shift keeps it even, Esc leaves the tool.'}
        </span>
      )}
    </div>
  )
}
