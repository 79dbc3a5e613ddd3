import { toNumber } from '@/core/clock'
import { changeLayer, type Loop } from '@/core/document'
import { type RecordedSample, recordedMotion, setMotion } from '@/core/edit'
import { valuesAt } from '@/core/evaluate'
import { invert, type Point, transformPoint } from '@/core/path'
import { changeLoop, currentLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { setSession, useSession } from '@/store/session'
import { layerOnStage } from './stage-drag'

/** Px of the frame that one step of a property is worth while it is recorded. */
const PX_PER_STEP = 4

type Reading = (point: Point) => Readonly<Record<string, number>>

/** How the pointer sets the recorded property: places by itself, a turn by its angle, anything else by its height. */
function readingOf(loop: Loop, id: string, name: string | null, frame: number, from: Point): Reading | null {
  const on = layerOnStage(loop, id, frame)
  const back = on && invert(on.outer)
  if (!on || !back) return null
  const values = valuesAt(on.layer, frame, loop.length)
  const number = (property: string) => Number(values[property])
  if (name === 'rotation') {
    const pivot = transformPoint(on.outer, { x: number('x') + number('pivotX'), y: number('y') + number('pivotY') })
    let turned = 0
    let last = Math.atan2(from.y - pivot.y, from.x - pivot.x)
    return (point) => {
      const angle = Math.atan2(point.y - pivot.y, point.x - pivot.x)
      const by = angle - last
      turned += by - 2 * Math.PI * Math.round(by / (2 * Math.PI))
      last = angle
      return { rotation: number('rotation') + (turned * 180) / Math.PI }
    }
  }
  if (name === null || name === 'x' || name === 'y' || typeof values[name] !== 'number') {
    const start = transformPoint(back, from)
    return (point) => {
      const at = transformPoint(back, point)
      return { x: number('x') + at.x - start.x, y: number('y') + at.y - start.y }
    }
  }
  const step = name.startsWith('scale') || number(name) <= 1 ? 0.02 : 1
  return (point) => ({ [name]: number(name) + ((from.y - point.y) / PX_PER_STEP) * step })
}

/**
 * Records the dragging of a layer in real time: the loop plays while the pointer is held, for one round of it at most,
 * and what was seen becomes a motion with a key on every frame.
 */
export function recordDrag(event: React.PointerEvent, id: string, pointOf: (event: React.PointerEvent) => Point): void {
  const loop = currentLoop()
  const surface = event.currentTarget
  if (!loop || loop.length < 2) return
  event.stopPropagation()
  surface.setPointerCapture(event.pointerId)
  const start = frameNow()
  const read = readingOf(loop, id, useSession.getState().property, start, pointOf(event))
  if (!read) return
  const rate = toNumber(loop.rate)
  const startedAt = event.timeStamp
  const samples: { frame: number; values: Readonly<Record<string, number>> }[] = []
  // The time at which the pointer was there, not that at which a busy page came to look at it.
  const take = (at: PointerEvent) => {
    const passed = at.getCoalescedEvents()
    for (const each of passed.length > 0 ? passed : [at]) {
      if (ended) return
      const frame = start + ((each.timeStamp - startedAt) / 1000) * rate
      samples.push({ frame, values: read(pointOf(each as unknown as React.PointerEvent)) })
      if (frame - start >= loop.length) end()
    }
  }
  let ended = false
  const end = () => {
    if (ended) return
    ended = true
    surface.removeEventListener('pointermove', onMove as EventListener)
    surface.removeEventListener('pointerup', onUp as EventListener)
    setSession({ playing: false, tool: null })
    const names = Object.keys(samples[0]?.values ?? {})
    changeLoop((current) =>
      changeLayer(current, id, (layer) =>
        names.reduce((each, name) => {
          const own = samples.map(({ frame, values }): RecordedSample => ({ frame, value: values[name] ?? 0 }))
          const motion = recordedMotion(own, current.length)
          return motion ? setMotion(each, name, motion) : each
        }, layer),
      ),
    )
    const [name] = names
    if (name) setSession({ property: name })
  }
  const onMove = (at: PointerEvent) => take(at)
  const onUp = (at: PointerEvent) => {
    take(at)
    end()
  }
  take(event.nativeEvent)
  setSession({ playing: true })
  surface.addEventListener('pointermove', onMove as EventListener)
  surface.addEventListener('pointerup', onUp as EventListener)
}
