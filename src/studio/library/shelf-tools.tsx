import { FileDown, Grid2x2, Maximize2, Search, Trash2, X } from 'lucide-react'
import { ORDERS, type Order } from './shelf'

interface ShelfToolsProps {
  readonly typed: string
  readonly order: Order
  /** How many loops are chosen. */
  readonly chosen: number
  readonly onType: (typed: string) => void
  readonly onOrder: (order: Order) => void
  readonly large: boolean
  /** How many loops are in the trash, and whether they are shown. */
  readonly trashed: number
  readonly trashShown: boolean
  readonly onLarge: (large: boolean) => void
  readonly onTrash: (shown: boolean) => void
  readonly onWrite: () => void
  readonly onPlace: () => void
  readonly onDelete: () => void
  readonly onNone: () => void
}

/** Finds loops, puts them in order, and does something to those that are chosen. */
export function ShelfTools(props: ShelfToolsProps) {
  const { typed, order, chosen, large, trashed, trashShown } = props
  const { onType, onOrder, onLarge, onTrash, onWrite, onPlace, onDelete, onNone } = props
  return (
    <div className="mb-4 flex min-h-8 flex-wrap items-center gap-2" role="group" aria-label="Loops of the library">
      <label className="input input-sm flex w-48 items-center gap-2 bg-transparent">
        <Search size={14} aria-hidden="true" className="dim" />
        <input
          type="search"
          className="w-full"
          placeholder="Find a loop, a kind, a layer"
          aria-label="Find loops"
          value={typed}
          onChange={(event) => onType(event.target.value)}
        />
      </label>
      <select
        className="select select-sm w-36 bg-transparent"
        aria-label="Order"
        value={order}
        onChange={(event) => onOrder(event.target.value as Order)}
      >
        {ORDERS.map((each) => (
          <option key={each} value={each}>
            by {each}
          </option>
        ))}
      </select>
      <button
        type="button"
        className="btn btn-ghost btn-sm aria-pressed:text-primary"
        aria-pressed={large}
        onClick={() => onLarge(!large)}
      >
        <Maximize2 size={14} aria-hidden="true" /> Large previews
      </button>
      {(trashed > 0 || trashShown) && (
        <button
          type="button"
          className="btn btn-ghost btn-sm aria-pressed:text-primary"
          aria-pressed={trashShown}
          onClick={() => onTrash(!trashShown)}
        >
          <Trash2 size={14} aria-hidden="true" /> Trash, {trashed}
        </button>
      )}
      {chosen > 0 && (
        <span className="ms-auto flex items-center gap-2">
          <span role="status" className="dim">
            {chosen === 1 ? '1 loop is chosen' : `${chosen} loops are chosen`}
          </span>
          <button type="button" className="btn btn-neutral btn-sm" onClick={onWrite}>
            <FileDown size={15} aria-hidden="true" /> Write files
          </button>
          <button type="button" className="btn btn-neutral btn-sm" onClick={onPlace}>
            <Grid2x2 size={15} aria-hidden="true" /> Place together
          </button>
          <button type="button" className="btn btn-neutral btn-sm" onClick={onDelete}>
            <Trash2 size={15} aria-hidden="true" /> Delete
          </button>
          <button type="button" className="btn btn-ghost btn-sm" onClick={onNone}>
            <X size={15} aria-hidden="true" /> None
          </button>
        </span>
      )}
    </div>
  )
}
