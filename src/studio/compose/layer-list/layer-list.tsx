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
import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual'
import { Copy, Eye, EyeOff, GripVertical, Group, Lock, LockOpen, Trash2, Ungroup } from 'lucide-react'
import { memo, useEffect, useMemo, useRef, useState } from 'react'
import { changeLayer, type Layer, type Loop, MAX_NAME, moveLayer, referencesOf } from '@/core/document'
import { layerKind } from '@/core/layers'
import { mediaWithoutFiles } from '@/core/media'
import { changeLoop } from '@/store/document'
import { setSession, useSession } from '@/store/session'
import { runCommand, shortcutOf } from '../../commands'
import { classNames, IconButton, PanelHeading } from '../../parts'
import { KindIcon } from '../tools/kind-icon'

/** Fields of a layer that the list shows. */
interface Row extends Pick<Layer, 'id' | 'name' | 'kind' | 'hidden' | 'locked'> {
  /** Whether the file that it shows is not there. */
  readonly empty: boolean
  readonly depth: number
  readonly holdsLayers: boolean
}

/** The layers as rows, the frontmost first, groups before what they hold. */
const rowsOf = (layers: readonly Layer[], missing: readonly string[], depth = 0): Row[] =>
  [...layers].reverse().flatMap((layer) => {
    const { id, name, kind, hidden, locked, layers: held } = layer
    const empty = referencesOf(layer).some((shown) => missing.includes(shown.id))
    return [
      { id, name, kind, hidden, locked, empty, depth, holdsLayers: held !== undefined },
      ...rowsOf(held ?? [], missing, depth + 1),
    ]
  })

/** Ids of the media whose files are not there. */
function useMissing(media: Loop['media']): readonly string[] {
  const [missing, setMissing] = useState<readonly string[]>([])
  useEffect(() => {
    let current = true
    void mediaWithoutFiles(media).then((found) => {
      if (current) setMissing(found)
    })
    return () => {
      current = false
    }
  }, [media])
  return missing
}

/** The rows, the same ones as long as nothing that is shown of them changes. */
function useRows(loop: Loop): readonly Row[] {
  const shown = useSession((session) => session.missing)
  const text = JSON.stringify(rowsOf(loop.layers, [...shown, ...useMissing(loop.media)]))
  return useMemo(() => JSON.parse(text) as Row[], [text])
}

/** Order, name, visibility and lock of all layers. */
export function LayerList({ loop }: { loop: Loop }) {
  return <Rows rows={useRows(loop)} />
}

const Rows = memo(function Rows({ rows }: { rows: readonly Row[] }) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const [dragged, setDragged] = useState<string | null>(null)
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    setDragged(null)
    if (!over || over.id === active.id) return
    const order = rows.map(({ id }) => id)
    const down = order.indexOf(String(active.id)) < order.indexOf(String(over.id))
    const target = rows.find(({ id }) => id === over.id)
    // Coming from above and let go over an open group, a layer goes into it; else it takes the place of the row.
    const side = down && target?.holdsLayers ? 'inside' : down ? 'back' : 'front'
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
        <DndContext
          id="layers"
          sensors={sensors}
          collisionDetection={closestCenter}
          onDragStart={({ active }) => setDragged(String(active.id))}
          onDragCancel={() => setDragged(null)}
          onDragEnd={onDragEnd}
        >
          <SortableContext items={rows as Row[]} strategy={verticalListSortingStrategy}>
            <SeenRows rows={rows} dragged={dragged} />
          </SortableContext>
        </DndContext>
      )}
    </section>
  )
})

/** Height of a row, px. */
const ROW = 28
/** Rows that are drawn beyond those in sight, either way: keys walk to them. */
const BEYOND = 12

/** The rows that are in sight, however many there are; the one that is dragged stays. */
function SeenRows({ rows, dragged }: { rows: readonly Row[]; dragged: string | null }) {
  const box = useRef<HTMLDivElement>(null)
  const kept = rows.findIndex(({ id }) => id === dragged)
  const seen = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: BEYOND,
    paddingStart: 4,
    paddingEnd: 4,
    getItemKey: (i) => rows[i]?.id ?? i,
    rangeExtractor: (range) =>
      [...new Set([...defaultRangeExtractor(range), ...(kept < 0 ? [] : [kept])])].sort((a, b) => a - b),
  })
  const chosen = useSession(({ selection }) => (selection.length === 1 ? selection[0] : undefined))
  const order = useRef(rows)
  order.current = rows
  useEffect(() => {
    const at = order.current.findIndex(({ id }) => id === chosen)
    if (at >= 0) seen.scrollToIndex(at)
  }, [chosen, seen])
  return (
    <div ref={box} className="min-h-0 flex-1 overflow-y-auto">
      <ul className="relative" style={{ height: seen.getTotalSize() }} aria-label="Layers, front to back">
        {seen.getVirtualItems().map(({ index, start }) => {
          const row = rows[index]
          return row && <LayerRow key={row.id} top={start} {...row} />
        })}
      </ul>
    </div>
  )
}

const LayerRow = memo(function LayerRow({
  top,
  id,
  name,
  kind,
  hidden,
  locked,
  empty,
  depth,
}: Row & { readonly top: number }) {
  const selected = useSession((session) => session.selection.includes(id))
  const [draft, setDraft] = useState<string | null>(null)
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({ id })
  const change = (part: Partial<Layer>) => changeLoop((loop) => changeLayer(loop, id, (each) => ({ ...each, ...part })))
  const select = (event: React.MouseEvent) =>
    setSession(({ selection }) => ({
      property: null,
      selection:
        event.shiftKey || event.ctrlKey || event.metaKey
          ? selection.includes(id)
            ? selection.filter((each) => each !== id)
            : [...selection, id]
          : [id],
    }))
  const rename = () => {
    if (draft?.trim()) change({ name: draft.trim().slice(0, MAX_NAME) })
    setDraft(null)
  }
  return (
    <li
      ref={setNodeRef}
      style={{
        top,
        transform: CSS.Transform.toString(transform),
        transition: transition ?? '',
        paddingInlineStart: 4 + depth * 14,
      }}
      className={classNames(
        'group absolute inset-x-0 flex h-7 items-center gap-1 pe-1.5',
        selected && 'bg-neutral',
        isDragging && 'z-10 opacity-70',
        hidden && 'opacity-60',
      )}
    >
      <button
        type="button"
        className="dim cursor-grab touch-none px-0.5"
        {...attributes}
        {...listeners}
        aria-label={`Move ${name}`}
      >
        <GripVertical size={12} aria-hidden="true" />
      </button>
      <span className={selected ? 'text-primary' : 'dim'}>
        <KindIcon kind={layerKind(kind)} size={13} />
      </span>
      {draft === null ? (
        <button
          type="button"
          aria-pressed={selected}
          className="min-w-0 flex-1 truncate text-start"
          onClick={select}
          onDoubleClick={() => setDraft(name)}
          onKeyDown={(event) => event.key === 'F2' && setDraft(name)}
          title={`${name} — double press or F2 renames`}
        >
          {name}
          {empty && <span className="text-error"> · file missing</span>}
        </button>
      ) : (
        <input
          autoFocus
          className="input input-xs min-w-0 flex-1"
          aria-label={`Name of ${name}`}
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
        icon={locked ? Lock : LockOpen}
        label={locked ? `Unlock ${name}` : `Lock ${name}`}
        pressed={locked}
        className={locked ? '' : 'opacity-0 group-focus-within:opacity-100 group-hover:opacity-100'}
        onClick={() => change({ locked: !locked })}
      />
      <IconButton
        icon={hidden ? EyeOff : Eye}
        label={hidden ? `Show ${name}` : `Hide ${name}`}
        pressed={hidden}
        className={hidden ? '' : 'opacity-0 group-focus-within:opacity-100 group-hover:opacity-100'}
        onClick={() => change({ hidden: !hidden })}
      />
    </li>
  )
})
