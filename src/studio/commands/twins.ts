import { type TwinDiffers, twinLayers } from '@/core/edit'
import { changeLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { setSession } from '@/store/session'
import { type Command, needsSelection, selection } from './command'

/** Puts a twin at another time in front of each selected layer, and selects the twins. */
function twin(how: TwinDiffers): void {
  if (!needsSelection()) return
  let twins: string[] = []
  const changed = changeLoop((loop) => {
    const made = twinLayers(loop, selection(), how)
    twins = made.copies
    return made.loop
  })
  if (changed) setSession({ selection: twins })
}

const LATER = 5
const FASTER = 2

export const TWIN_COMMANDS: readonly Command[] = [
  {
    id: 'twin-later',
    label: `Twin, ${LATER} frames later, or as many as are typed behind`,
    section: 'Layers',
    keys: 'alt+d',
    amount: { unit: 'frames', begins: LATER },
    run: (_, later = LATER) => twin({ later }),
  },
  {
    id: 'twin-faster',
    label: 'Twin, twice as fast, or as many times as are typed behind',
    section: 'Layers',
    keys: 'alt+f',
    amount: { unit: '×', begins: FASTER },
    run: (_, times = FASTER) => twin({ faster: Math.max(1, Math.round(times)) }),
  },
  {
    id: 'twin-backwards',
    label: 'Twin, backwards',
    section: 'Layers',
    keys: 'alt+b',
    run: () => twin({ backwards: true }),
  },
  {
    id: 'twin-frozen',
    label: 'Twin, frozen as it is now',
    section: 'Layers',
    keys: 'alt+z',
    run: () => twin({ frozenAt: frameNow() }),
  },
]
