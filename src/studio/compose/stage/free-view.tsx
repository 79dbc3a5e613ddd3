'use client'

import { X } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import { changeLayer, findLayer, type Loop } from '@/core/document'
import { type FreeSight, freeCamera, modelOf, seenFreely } from '@/core/edit'
import { valuesAt } from '@/core/evaluate'
import { cameraOf } from '@/core/layers'
import { add, axesOf, projected, scaled, type Vector } from '@/core/solid'
import { changeLoop } from '@/store/document'
import { type FrameStore, thumbnailFrames } from '@/store/frames'
import { setSession, useSession, useStillFrame } from '@/store/session'
import { IconButton } from '../../parts'

const WIDTH = 228
const HEIGHT = 171
/** Degrees that a px of a drag, and a press of an arrow, go round. */
const DRAG = 0.6
const STEP = 10
/** How much nearer or further a step of the wheel, or of + and −, goes. */
const NEARER = 1.15
/** Begins from behind the camera's shoulder, so that the camera itself is seen, too. */
const BEGIN = { beside: 55, higher: 25, distance: 3.4 }

const within = (value: number, least: number, most: number) => Math.min(most, Math.max(least, value))

/** The selected model seen from anywhere, with the camera that takes it; nothing of that is part of the document. */
export function FreeView({ loop }: { loop: Loop }) {
  const open = useSession(({ freeView }) => freeView)
  const id = useSession(({ selection }) => selection[0])
  const layer = open && id !== undefined ? findLayer(loop, id) : undefined
  const model = layer && modelOf(loop, layer)
  if (!layer || !model) return null
  return <OpenView key={layer.id} loop={loop} id={layer.id} />
}

function OpenView({ loop, id }: { loop: Loop; id: string }) {
  const frame = useStillFrame()
  const [sight, setSight] = useState<FreeSight>(() => {
    const values = findLayer(loop, id)?.values
    return {
      around: Number(values?.around) + BEGIN.beside,
      above: within(Number(values?.above) + BEGIN.higher, -90, 90),
      distance: BEGIN.distance,
    }
  })
  const box = useRef<HTMLDivElement>(null)
  const [frames, setFrames] = useState<FrameStore | null>(null)
  const [drawn, setDrawn] = useState(false)
  useEffect(() => {
    const made = thumbnailFrames()
    made.frames.canvas.style.cssText = 'width:100%;height:100%'
    made.frames.canvas.ariaHidden = 'true'
    box.current?.prepend(made.frames.canvas)
    made.frames.canvas.addEventListener('shown', () => setDrawn(true), { once: true })
    setFrames(made.frames)
    return () => {
      made.frames.canvas.remove()
      made.end()
    }
  }, [])
  const size = { width: WIDTH, height: HEIGHT }
  useEffect(() => {
    frames?.show(seenFreely(loop, id, sight, { width: WIDTH, height: HEIGHT }), WIDTH, frame)
  }, [frames, loop, id, sight, frame])
  // Without listeners of its own the wheel would zoom the stage.
  useEffect(() => {
    const element = box.current
    const turn = (event: WheelEvent) => {
      event.preventDefault()
      event.stopPropagation()
      const by = event.deltaY > 0 ? NEARER : 1 / NEARER
      setSight((now) => ({ ...now, distance: within(now.distance * by, 0.2, 20) }))
    }
    element?.addEventListener('wheel', turn, { passive: false })
    return () => element?.removeEventListener('wheel', turn)
  }, [])
  const go = (around: number, above: number) =>
    setSight((now) => ({ ...now, around: (now.around + around) % 360, above: within(now.above + above, -90, 90) }))
  const onKeyDown = (event: React.KeyboardEvent) => {
    const way = ({ ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, STEP], ArrowDown: [0, -STEP] } as const)[
      event.key
    ]
    const nearer = { '+': 1 / NEARER, '=': 1 / NEARER, '-': NEARER }[event.key]
    if (!way && !nearer) return
    event.preventDefault()
    event.stopPropagation()
    if (way) go(way[0], way[1])
    if (nearer) setSight((now) => ({ ...now, distance: within(now.distance * nearer, 0.2, 20) }))
  }
  const onPointerMove = (event: React.PointerEvent) => {
    if (event.buttons === 1) go(-DRAG * event.movementX, DRAG * event.movementY)
  }
  const take = () =>
    changeLoop((current) =>
      changeLayer(current, id, (each) => {
        const { around: _, above: __, roll: ___, ...motions } = each.motions
        const [around, above] = [sight.around, sight.above].map((x) => Number(x.toFixed(1))) as [number, number]
        return { ...each, motions, values: { ...each.values, around, above, roll: 0 } }
      }),
    )
  return (
    <section
      className="hairline absolute right-1 bottom-8 overflow-hidden rounded-box border bg-base-100"
      style={{ width: WIDTH }}
      aria-label="Free view"
    >
      <div className="flex items-center gap-1 ps-2 text-xs">
        <span className="flex-1">Free view</span>
        <button type="button" className="btn btn-ghost btn-xs" onClick={take}>
          Take this view
        </button>
        <IconButton icon={X} label="Close the free view" onClick={() => setSession({ freeView: false })} />
      </div>
      <div
        ref={box}
        className="relative cursor-grab touch-none active:cursor-grabbing"
        style={size}
        role="application"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it is turned by the arrow keys
        tabIndex={0}
        aria-label="The model seen freely: drag or the arrow keys go round it, + and − nearer and further"
        onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
        onPointerMove={onPointerMove}
        onKeyDown={onKeyDown}
      >
        {!drawn && <p className="dim absolute inset-x-0 top-1 text-center text-2xs">Drawing …</p>}
        <SeenCamera loop={loop} id={id} sight={sight} frame={frame} />
      </div>
    </section>
  )
}

/** The camera that takes the picture, as the free view shows it: where it is, and how far it sees at the pivot. */
function SeenCamera({ loop, id, sight, frame }: { loop: Loop; id: string; sight: FreeSight; frame: number }) {
  const layer = findLayer(loop, id)
  const model = layer && modelOf(loop, layer)
  if (!layer || !model) return null
  const values = valuesAt(layer, frame, loop.length)
  const camera = cameraOf(model, values)
  const free = freeCamera(model, values, sight, { width: WIDTH, height: HEIGHT })
  const { right, up } = axesOf(camera)
  const h = camera.height / 2
  const w = (camera.height * Number(values.width)) / Number(values.height) / 2
  const spread = (from: Vector, by: number): Vector[] =>
    [
      [-1, 1],
      [1, 1],
      [1, -1],
      [-1, -1],
    ].map(([x = 0, y = 0]) => add(from, add(scaled(right, by * x * w), scaled(up, by * y * h))))
  const seen = (at: Vector) => projected(at, free, WIDTH, HEIGHT)
  const window = spread(camera.at, 1).map(seen)
  // A parallel camera sees as much from where it is.
  const starts = camera.fieldOfView === null ? spread(camera.from, 1).map(seen) : window.map(() => seen(camera.from))
  const points = window.flatMap((at) => (at ? [`${at.x.toFixed(1)},${at.y.toFixed(1)}`] : [])).join(' ')
  return (
    <svg
      className="pointer-events-none absolute inset-0 mix-blend-difference"
      width={WIDTH}
      height={HEIGHT}
      aria-hidden="true"
    >
      <polygon points={points} fill="none" className="stroke-white" strokeWidth={1} />
      {window.map((at, i) => {
        const from = starts[i]
        return (
          at &&
          from && (
            <line
              // A corner is told by its place.
              key={i}
              {...{ x1: from.x, y1: from.y, x2: at.x, y2: at.y }}
              className="stroke-white/70"
              strokeWidth={1}
            />
          )
        )
      })}
    </svg>
  )
}
