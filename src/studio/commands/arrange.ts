import { toast } from 'sonner'
import { changeLayer, findLayer, type Loop, referencesOf } from '@/core/document'
import {
  beltAround,
  chainAround,
  copiesAlong,
  groupLayers,
  makeCopies,
  makeParticles,
  makePattern,
  patternInFigure,
} from '@/core/edit'
import { newId } from '@/core/id'
import { mediumKind } from '@/core/media'
import { changeLoop, currentLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { setSession } from '@/store/session'
import { choosePictures } from '../material'
import { type Command, needsSelection, selectedLayers, selection } from './command'

type Made = { readonly loop: Loop; readonly id: string } | null

/** Takes over what was made of the selected layers and selects it; says what is needed where nothing could be made. */
function arrange(
  make: (loop: Loop, ids: readonly string[], frame: number) => Made,
  needs: string,
  property: string | null = null,
) {
  if (!needsSelection()) return
  const loop = currentLoop()
  const made = loop && make(loop, selection(), frameNow())
  if (!made) return void toast(needs)
  changeLoop(() => made.loop)
  setSession({ selection: [made.id], property, tool: null })
}

/** Puts the selected layers into a group whose frontmost layer masks the others. */
function mask(loop: Loop, ids: readonly string[], frame: number): Made {
  if (ids.length < 2) return null
  const id = newId()
  const grouped = groupLayers(loop, ids, frame, id)
  if (grouped === loop) return null
  const named = changeLayer(grouped, id, (layer) => ({
    ...layer,
    name: `Masked by ${layer.layers?.at(-1)?.name ?? 'a shape'}`.slice(0, 100),
    values: { ...layer.values, mask: 'shape' },
  }))
  return findLayer(named, id) ? { loop: named, id } : null
}

/** Commands that make many layers of one, or one of many. */
export const ARRANGE_COMMANDS: readonly Command[] = [
  {
    id: 'copies',
    label: 'Copies of the selected layers',
    section: 'Arrange',
    keys: 'y',
    run: () => arrange(makeCopies, 'Select layers that lie side by side in one group.'),
  },
  {
    id: 'pattern',
    label: 'Pattern of the selected layers, over the frame',
    section: 'Arrange',
    keys: 'shift+q',
    run: () => arrange(makePattern, 'Select layers that lie side by side in one group.', 'offsetX'),
  },
  {
    id: 'pattern-in',
    label: 'Pattern of the selected layers, in the last selected figure',
    section: 'Arrange',
    run: () =>
      arrange(
        patternInFigure,
        'Select what is to be the tile, and then, with Shift, the figure that it fills.',
        'offsetX',
      ),
  },
  {
    id: 'particles-of',
    label: 'Particles of the selected layers, over the frame',
    section: 'Arrange',
    run: () => arrange(makeParticles, 'Select layers that lie side by side in one group.', 'time'),
  },
  {
    id: 'copies-along',
    label: 'Copies along the last selected figure',
    section: 'Arrange',
    keys: 'a',
    run: () =>
      arrange(copiesAlong, 'Select what is to be copied, and then, with Shift, the figure that it runs along.'),
  },
  {
    id: 'belt',
    label: 'Belt round the selected layers',
    section: 'Arrange',
    keys: 'b',
    run: () => arrange(beltAround, 'Select the shapes that the belt runs round.', 'travel'),
  },
  {
    id: 'chain',
    label: 'Chain round the selected layers',
    section: 'Arrange',
    keys: 'shift+y',
    run: () => arrange(chainAround, 'Select the shapes that the chain runs round.', 'shift'),
  },
  {
    id: 'mask',
    label: 'Mask with the frontmost of the selected layers',
    section: 'Arrange',
    keys: 'm',
    run: () => arrange(mask, 'Select at least two layers: the frontmost masks the others.'),
  },
  {
    id: 'place-loop',
    label: 'Place a loop of the library',
    section: 'Arrange',
    keys: 'i',
    run: () => setSession({ placing: true }),
  },
  {
    id: 'heal',
    label: 'Heal the edges of the selected picture or clip',
    section: 'Arrange',
    run: () => {
      const loop = currentLoop()
      const shown = loop && selectedLayers(loop).flatMap(referencesOf)
      const medium = loop?.media.find(
        ({ id, kind }) => mediumKind(kind).withPictures && shown?.some((each) => each.id === id),
      )
      if (medium) setSession({ healing: medium.id })
      else toast('Select a picture or clip first.')
    },
  },
  {
    id: 'bring-in',
    label: 'Bring in pictures or SVG files',
    section: 'Arrange',
    keys: 'shift+i',
    run: () => void choosePictures(),
  },
]
