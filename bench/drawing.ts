import type { Loop } from '../src/core/document'
import { makeCopies, newLayer, newLoop } from '../src/core/edit'

/** Number of changes of a value, and the pause in which the page comes to rest, ms. */
export const CHANGES = 24
export const CHANGE_PAUSE_MS = 1000

/** A loop of the given number of moving layers at 1280×720: turning arcs, bobbing dots, breathing stars, in turn. */
export function busyLoop(layers: number): Loop {
  const loop = newLoop(
    {
      name: `Quay of ${layers}`,
      kind: 'loader',
      width: 1280,
      height: 720,
      background: '#0a2231',
      rate: { num: 60, den: 1 },
      length: 60,
    },
    `bench-${layers}`,
  )
  const linear = (from: number, to: number) => [
    { at: 0, value: from, ease: 'linear' },
    { at: 1, value: to, ease: 'linear' },
  ]
  const swing = (from: number, to: number) => [
    { at: 0, value: from, ease: 'ease-in-out' },
    { at: 0.5, value: to, ease: 'ease-in-out' },
  ]
  return {
    ...loop,
    layers: Array.from({ length: layers }, (_, i) => {
      const x = 80 + ((i * 173) % 1120)
      const y = 70 + ((i * 97) % 580)
      const phase = (i * 0.37) % 1
      const turn = { keys: linear(0, 360), after: 'accumulate' as const, period: { cycles: 1 + (i % 3) }, phase }
      const bob = { keys: swing(y, y + 60), after: 'repeat' as const, period: { cycles: 1 }, phase }
      if (i % 3 === 0)
        return {
          ...newLayer(
            'ellipse',
            `Arc ${i}`,
            {
              x,
              y,
              width: 120,
              height: 120,
              fill: null,
              stroke: '#f6b84b',
              strokeWidth: 14,
              cap: 'round',
              spanEnd: 0.7,
            },
            `l${i}`,
          ),
          motions: { rotation: turn },
        }
      if (i % 3 === 1)
        return {
          ...newLayer('ellipse', `Dot ${i}`, { x, y, width: 60, height: 60, fill: '#79c9b4' }, `l${i}`),
          motions: { y: bob },
        }
      return {
        ...newLayer('polygon', `Star ${i}`, { x, y, radius: 50, corners: 7, inner: 0.5, fill: '#ef7f5f' }, `l${i}`),
        motions: {
          rotation: turn,
          opacity: { keys: swing(1, 0.4), after: 'repeat' as const, period: { cycles: 2 }, phase },
        },
      }
    }),
  }
}

/** Four hundred copies of a bobbing, turning square, each at a phase of its own, at 1280×720. */
export function copiesLoop(): Loop {
  const [bobbing] = busyLoop(3).layers.slice(2)
  if (!bobbing) throw new Error('the third layer turns and fades')
  const loop = { ...busyLoop(0), layers: [bobbing] }
  const made = makeCopies(loop, [bobbing.id], 0, {
    arrangement: 'grid',
    columns: 25,
    rows: 16,
    pitch: 48,
    pitchY: 42,
    stagger: 1 / 400,
  })
  if (!made) throw new Error('one layer can be copied')
  const layers = made.loop.layers.map((layer) => ({
    ...layer,
    values: { ...layer.values, x: 640, y: 360, scaleX: 0.9, scaleY: 0.9 },
    layers: layer.layers?.map((each) => ({ ...each, values: { ...each.values, radius: 16 } })) ?? [],
  }))
  return { ...made.loop, layers }
}
