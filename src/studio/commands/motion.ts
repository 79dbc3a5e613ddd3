import { toast } from 'sonner'
import { changeSpeed, setCycles } from '@/core/closing'
import { changeLayer, findLayer } from '@/core/document'
import {
  type CopiedKeys,
  copyKeys,
  moveKeys,
  pasteKeys,
  removeKeys,
  reverseKeys,
  setKeyAtFrame,
  setMotion,
} from '@/core/edit'
import { propertyAt } from '@/core/evaluate'
import { layerKind } from '@/core/layers'
import { evenSpeed, keyedTogether, type Motion, type MovingValue } from '@/core/motion'
import { changeLoop, currentLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { setSession, useSession } from '@/store/session'
import type { Command } from './command'

/** The motion that is shown: of the chosen property of the one selected layer, or its first. */
export function shownMotion() {
  const loop = currentLoop()
  const { selection, property, keys } = useSession.getState()
  const layer = loop && selection.length === 1 ? findLayer(loop, selection[0] as string) : undefined
  const name = layer && (property && layer.motions[property] ? property : Object.keys(layer.motions)[0])
  const motion = layer && name ? layer.motions[name] : undefined
  return loop && layer && name && motion ? { loop, layer, name, motion, keys } : null
}

function withMotion(change: (shown: NonNullable<ReturnType<typeof shownMotion>>) => void) {
  const shown = shownMotion()
  if (shown) change(shown)
  else toast('Select a layer that moves first.')
}

const set = (layerId: string, name: string, motion: Motion) =>
  changeLoop((loop) => changeLayer(loop, layerId, (layer) => setMotion(layer, name, motion)))

/** Does something to the chosen keys; to all of them where none is chosen. */
function withKeys(change: (motion: Motion, keys: readonly number[], length: number) => Motion) {
  withMotion(({ loop, layer, name, motion, keys }) => {
    const chosen = keys.length > 0 ? keys : motion.keys.map((_, i) => i)
    set(layer.id, name, change(motion, chosen, loop.length))
  })
}

let copied: CopiedKeys | null = null

/** Copies the chosen keys, or all of the motion that is shown. */
export const copyShownKeys = (): void =>
  withMotion(({ loop, motion, keys }) => {
    copied = copyKeys(motion, keys.length > 0 ? keys : motion.keys.map((_, i) => i), loop.length)
    toast(copied.keys.length === 1 ? 'One key is copied.' : `${copied.keys.length} keys are copied.`)
  })

/** Pastes the keys that were copied last at the playhead. */
export const pasteCopiedKeys = (): void =>
  withMotion(({ loop, layer, name, motion }) => {
    if (!copied) return void toast('Copy keys first.')
    const pasted = pasteKeys(motion, copied, frameNow(), loop.length)
    if (pasted === motion) toast(`These keys do not fit ${layerKind(layer.kind).properties[name]?.label ?? name}.`)
    set(layer.id, name, pasted)
  })

/** The motion at an even speed; x and y together where they draw one path. */
const makeEven = () =>
  withMotion(({ layer, name, motion }) => {
    const other = layer.motions[name === 'x' ? 'y' : name === 'y' ? 'x' : '']
    const pair = other && keyedTogether([motion, other] as Motion<number>[]) ? [motion, other] : [motion]
    if (typeof motion.keys[0]?.value !== 'number') return void toast('The speed of a colour has no measure.')
    const [even, evenOther] = evenSpeed(pair as Motion<number>[])
    changeLoop((loop) =>
      changeLayer(loop, layer.id, (each) => {
        const changed = even ? setMotion(each, name, even) : each
        return evenOther ? setMotion(changed, name === 'x' ? 'y' : 'x', evenOther) : changed
      }),
    )
  })

const speed = (slower: boolean) => () =>
  withMotion(({ layer, name }) => {
    const before = currentLoop()?.length
    changeLoop((loop) => changeSpeed(loop, layer.id, name, 2, slower))
    const after = currentLoop()?.length
    if (before !== after)
      toast(
        `One cycle per loop cannot become half a one: the loop is ${after} frames long now, everything else keeps its pace.`,
      )
  })

/**
 * Gives a motion a number of cycles in the loop, and reports every other change.
 * @throws RangeError if it cannot have that many
 */
export function changeCycles(layerId: string, name: string, cycles: number): void {
  const before = currentLoop()?.length
  changeLoop((loop) => setCycles(loop, layerId, name, cycles))
  const after = currentLoop()?.length
  if (before !== after)
    toast(`The loop is ${after} frames long now, so that one cycle fills it; everything else keeps its pace.`)
}

const nudge = (frames: number) => () => withKeys((motion, keys, length) => moveKeys(motion, keys, frames, 0, length))

/** Sets a key of a property at the playhead, with the value that is seen there. */
function setKeyHere(): void {
  withMotion(({ loop, layer, name, motion }) => {
    const frame = frameNow()
    const value = propertyAt({ ...layer, trembles: {}, events: {} }, name, frame, loop.length) as MovingValue
    set(layer.id, name, setKeyAtFrame(motion, value, frame, loop.length))
  })
}

/** Commands on the shown motion and its chosen keys. */
export const MOTION_COMMANDS: readonly Command[] = [
  { id: 'set-key', label: 'Set a key at the playhead', section: 'Motion', keys: 's', run: setKeyHere },
  { id: 'half-speed', label: 'Half the speed, still closing', section: 'Motion', keys: 'comma', run: speed(true) },
  { id: 'double-speed', label: 'Twice the speed, still closing', section: 'Motion', keys: 'period', run: speed(false) },
  {
    id: 'cycles',
    label: 'Cycles of the shown motion, as typed behind: 3, 2.5, 1/2',
    section: 'Motion',
    amount: { unit: 'cycles', begins: 1 },
    run: (_, cycles = 1) =>
      withMotion(({ layer, name }) => {
        try {
          changeCycles(layer.id, name, cycles)
        } catch (error) {
          toast.error((error as Error).message)
        }
      }),
  },
  { id: 'even-speed', label: 'Make the speed even', section: 'Motion', keys: 'u', run: makeEven },
  {
    id: 'reverse-keys',
    label: 'Reverse the chosen keys in time',
    section: 'Motion',
    keys: 'x',
    run: () => withKeys((motion, keys) => reverseKeys(motion, keys)),
  },
  { id: 'keys-later', label: 'Chosen keys one frame later', section: 'Motion', keys: 'shift+period', run: nudge(1) },
  {
    id: 'keys-earlier',
    label: 'Chosen keys one frame earlier',
    section: 'Motion',
    keys: 'shift+comma',
    run: nudge(-1),
  },
  {
    id: 'delete-keys',
    label: 'Delete the chosen keys',
    section: 'Motion',
    keys: 'shift+delete, shift+backspace',
    run: () => {
      withKeys((motion, keys) => (useSession.getState().keys.length > 0 ? removeKeys(motion, keys) : motion))
      setSession({ keys: [] })
    },
  },
  {
    id: 'all-keys',
    label: 'Choose all keys of the motion',
    section: 'Motion',
    keys: 'mod+shift+a',
    run: () => withMotion(({ motion }) => setSession({ keys: motion.keys.map((_, i) => i) })),
  },
]
