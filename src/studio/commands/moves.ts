import { toast } from 'sonner'
import { lackingFor, MOVES, type Move, type MoveWanted, takeMove } from '@/core/edit'
import { changeLoop, currentLoop } from '@/store/document'
import { setSession } from '@/store/session'
import { type Command, needsSelection, selectedLayers, selection } from './command'

/** Gives the selected layers a whole motion, and puts its numbers at hand; says why where none of them can take it. */
export function takeMotion(move: Move, wanted: MoveWanted = { name: move.name }): void {
  const loop = currentLoop()
  if (!loop || !needsSelection()) return
  const lacking = selectedLayers(loop).map((layer) => lackingFor(layer, move))
  if (lacking.every((words) => words !== null)) return void toast(lacking[0] ?? 'Select a layer first.')
  const ids = selection()
  const taken = changeLoop((current) => takeMove(current, ids, wanted))
  setSession({ preview: null, ...(taken && { taken: { ids, wanted } }) })
}

export const MOVE_COMMANDS: Command[] = MOVES.map((move) => ({
  id: `move-${move.name}`,
  label: `Take a motion: ${move.label}`,
  section: 'Motion',
  run: () => takeMotion(move),
}))
