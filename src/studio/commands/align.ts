import { toast } from 'sonner'
import { alignLayers, distributeLayers, type Edge, sameSize } from '@/core/edit'
import { changeLoop, currentLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { type Command, needsSelection, selection } from './command'

const WORDS: Readonly<Record<Edge, string>> = {
  left: 'left edges',
  centre: 'middles, from side to side',
  right: 'right edges',
  top: 'top edges',
  middle: 'middles, from top to bottom',
  bottom: 'bottom edges',
}

const aligned = (edge: Edge): Command => ({
  id: `align-${edge}`,
  label: `Align the ${WORDS[edge]}; one layer alone to the frame`,
  section: 'Arrange',
  run: () => {
    if (needsSelection()) changeLoop((loop) => alignLayers(loop, selection(), edge, frameNow()))
  },
})

const distributed = (along: 'x' | 'y'): Command => ({
  id: `distribute-${along}`,
  label: along === 'x' ? 'Even gaps from left to right' : 'Even gaps from top to bottom',
  section: 'Arrange',
  run: () => {
    const loop = currentLoop()
    if (!loop) return
    if (selection().length < 3) return void toast('Select three layers or more: the outermost stay where they are.')
    changeLoop((current) => distributeLayers(current, selection(), along, frameNow()))
  },
})

export const ALIGN_COMMANDS: readonly Command[] = [
  ...(Object.keys(WORDS) as Edge[]).map(aligned),
  distributed('x'),
  distributed('y'),
  {
    id: 'same-size',
    label: 'As large as the last selected layer',
    section: 'Arrange',
    run: () => {
      if (selection().length < 2)
        return void toast('Select the layers, and the one that is as large as they are to be last.')
      changeLoop((loop) => sameSize(loop, selection()))
    },
  },
]
