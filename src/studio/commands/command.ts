import { toast } from 'sonner'
import { findPlace, type Layer, type Loop } from '@/core/document'
import { useSession } from '@/store/session'
import type { FieldUnit } from '../parts/number-text'

export type View = 'library' | 'compose' | 'seam' | 'fit' | 'export' | 'file'

/** Something that can be done: in the command list, and where it is frequent by a key. */
export interface Command {
  readonly id: string
  readonly label: string
  readonly section: 'Play' | 'Layers' | 'Arrange' | 'Effects' | 'Draw' | 'Motion' | 'Edit' | 'Views' | 'File'
  /** As react-hotkeys-hook writes it; several are parted by commas. */
  readonly keys?: string
  /** Whether the keys also work in a field, as long as nothing has been typed there that is not taken yet. */
  readonly inFields?: boolean
  /** Whether its keys are the system's, which then says so. */
  readonly systemKeys?: boolean
  /** Amount that may be typed after the name in the command list: its unit, and its first value. */
  readonly amount?: { readonly unit: FieldUnit; readonly begins: number }
  readonly run: (go: (view: View) => void, amount?: number) => void
}

/** Ids of the selected layers. */
export const selection = () => useSession.getState().selection
export const selectedLayers = (loop: Loop): Layer[] => selection().flatMap((id) => findPlace(loop, id)?.layer ?? [])
/** Whether anything is selected; says so where nothing is. */
export const needsSelection = (): boolean => {
  if (selection().length > 0) return true
  toast('Select a layer first.')
  return false
}
