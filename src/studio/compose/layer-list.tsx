'use client'

import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { Copy, Eye, EyeOff, GripVertical, Group, Lock, LockOpen, Trash2, Ungroup } from 'lucide-react'
import { useState } from 'react'
import { layerKind } from '@/core/layers'
import { changeLayer, type Layer, type Loop, moveLayer } from '@/core/loop'
import { changeLoop } from '@/store/document'
import { setSession, useSession } from '@/store/session'
import { runCommand, shortcutOf } from '../commands'
import { classNames, IconButton, PanelHeading } from '../parts'
import { KindIcon } from './tool-bar'

interface Row {
  readonly layer: Layer
  readonly depth: number
}

/** The layers as rows, the frontmost first, groups before what they hold. */
const rowsOf = (layers: readonly Layer[], depth = 0): Row[] =>
  [...layers].reverse().flatMap((layer) => [{ layer, depth }, ...rowsOf(layer.layers ?? [], depth + 1)])

/** Order, name, visibility and lock of all layers. */
export function LayerList({ loop }: { loop: Loop }) {
  const rows = rowsOf(loop.layers)
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || over.id === active.id) return
    const order = rows.map(({ layer }) => layer.id)
    const down = order.indexOf(String(active.id)) < order.indexOf(String(over.id))
    const target = rows.find(({ layer }) => layer.id === over.id)?.layer
    // Coming from above and let go over an open group, a layer goes into it; else it takes the place of the row.
    const side = down && target?.layers ? 'inside' : down ? 'back' : 'front'
    changeLoop((current) => moveLayer(current, String(active.id), { id: String(over.id), side }))
  }
  return (
    <section className="flex h-full min-h-0 flex-col bg-base-100" aria-label="Layers">
      <PanelHeading title="Layers">
        <IconButton icon={Group} label="Group" shortcut={shortcutOf('group')} onClick={() => runCommand('group')} />
        <IconButton
          icon={Ungroup}
          label="Take the group apart"
          shortcut={shortcutOf('ungroup')}
          onClick={() => runCommand('ungroup')}
        />
        <IconButton
          icon={Copy}
          label="Duplicate"
          shortcut={shortcutOf('duplicate')}
          onClick={() => runCommand('duplicate')}
        />
        <IconButton icon={Trash2} label="Delete" shortcut={shortcutOf('delete')} onClick={() => runCommand('delete')} />
      </PanelHeading>
      {rows.length === 0 ? (
        <p className="dim p-3 text-xs">Nothing here yet. Pick a tool above the frame and drag, or press Enter on it.</p>
      ) : (
        <DndContext id="layers" sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
          <SortableContext items={rows.map(({ layer }) => layer.id)} strategy={verticalListSortingStrategy}>
            <ul className="min-h-0 flex-1 overflow-y-auto py-1" aria-label="Layers, front to back">
              {rows.map((row) => (
                <LayerRow key={row.layer.id} {...row} />
              ))}
            </ul>
          </SortableContext>
        </DndContext>
      )}
    </section>
  )
}

function LayerRow({ layer, depth }: Row) {
  const selected = useSession((session) => session.selection.includes(layer.id))
  const [draft, setDraft] = useState<string | null>(null)
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({ id: layer.id })
  const change = (part: Partial<Layer>) =>
    changeLoop((loop) => changeLayer(loop, layer.id, (each) => ({ ...each, ...part })))
  const select = (event: React.MouseEvent) =>
    setSession(({ selection }) => ({
      property: null,
      selection:
        event.shiftKey || event.ctrlKey || event.metaKey
          ? selection.includes(layer.id)
            ? selection.filter((id) => id !== layer.id)
            : [...selection, layer.id]
          : [layer.id],
    }))
  const rename = () => {
    if (draft?.trim()) change({ name: draft.trim().slice(0, 200) })
    setDraft(null)
  }
  return (
    <li
      ref={setNodeRef}
      style={{
        transform: CSS.Transform.toString(transform),
        transition: transition ?? '',
        paddingInlineStart: 4 + depth * 14,
      }}
      className={classNames(
        'group flex h-7 items-center gap-1 pe-1.5',
        selected && 'bg-neutral',
        isDragging && 'z-10 opacity-70',
        layer.hidden && 'opacity-60',
      )}
    >
      <button
        type="button"
        className="dim cursor-grab touch-none px-0.5"
        {...attributes}
        {...listeners}
        aria-label={`Move ${layer.name}`}
      >
        <GripVertical size={12} aria-hidden="true" />
      </button>
      <span className={selected ? 'text-primary' : 'dim'}>
        <KindIcon kind={layerKind(layer.kind)} size={13} />
      </span>
      {draft === null ? (
        <button
          type="button"
          aria-pressed={selected}
          className="min-w-0 flex-1 truncate text-start"
          onClick={select}
          onDoubleClick={() => setDraft(layer.name)}
          onKeyDown={(event) => event.key === 'F2' && setDraft(layer.name)}
          title={`${layer.name} — double press or F2 renames`}
        >
          {layer.name}
        </button>
      ) : (
        <input
          autoFocus
          className="input input-xs min-w-0 flex-1"
          aria-label={`Name of ${layer.name}`}
          value={draft}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={rename}
          onKeyDown={(event) => {
            if (event.key === 'Enter') rename()
            if (event.key === 'Escape') setDraft(null)
          }}
        />
      )}
      <IconButton
        icon={layer.locked ? Lock : LockOpen}
        label={layer.locked ? `Unlock ${layer.name}` : `Lock ${layer.name}`}
        pressed={layer.locked}
        className={layer.locked ? '' : 'opacity-0 group-focus-within:opacity-100 group-hover:opacity-100'}
        onClick={() => change({ locked: !layer.locked })}
      />
      <IconButton
        icon={layer.hidden ? EyeOff : Eye}
        label={layer.hidden ? `Show ${layer.name}` : `Hide ${layer.name}`}
        pressed={layer.hidden}
        className={layer.hidden ? '' : 'opacity-0 group-focus-within:opacity-100 group-hover:opacity-100'}
        onClick={() => change({ hidden: !layer.hidden })}
      />
    </li>
  )
}
