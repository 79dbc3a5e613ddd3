import { keysOf } from '@/core/output'
import type { Path } from '@/core/path'
import { LOTTIE_TOLERANCE, type LottieJson, momentOf, plain } from './values'

const short = (x: number) => Number(x.toFixed(3))

/** One line of a path: points, and handles relative to them. */
export interface Bezier {
  readonly c: boolean
  readonly v: number[][]
  readonly i: number[][]
  readonly o: number[][]
}

function beziersOf(path: Path): Bezier[] {
  const all: { c: boolean; v: number[][]; i: number[][]; o: number[][] }[] = []
  let own: (typeof all)[number] | undefined
  const add = (x: number, y: number, into: number[] = [0, 0]) => {
    own?.v.push([x, y])
    own?.i.push(into)
    own?.o.push([0, 0])
  }
  for (const segment of path) {
    if (segment[0] === 'M') {
      own = { c: false, v: [], i: [], o: [] }
      all.push(own)
      add(segment[1], segment[2])
    } else if (segment[0] === 'L') add(segment[1], segment[2])
    else if (segment[0] === 'C' && own) {
      const [, x1, y1, x2, y2, x, y] = segment
      const [fromX = 0, fromY = 0] = own.v.at(-1) ?? []
      own.o[own.o.length - 1] = [x1 - fromX, y1 - fromY]
      add(x, y, [x2 - x, y2 - y])
    } else if (segment[0] === 'Z' && own) {
      own.c = true
      // A curve that comes back to its first point ends in that point.
      const first = own.v[0] as number[]
      const last = own.v.at(-1) as number[]
      if (own.v.length > 1 && Math.hypot((first[0] ?? 0) - (last[0] ?? 0), (first[1] ?? 0) - (last[1] ?? 0)) < 1e-6) {
        own.i[0] = own.i.at(-1) as number[]
        for (const list of [own.v, own.i, own.o]) list.pop()
      }
    }
  }
  return all.map(({ c, ...lists }) => {
    const [v, i, o] = [lists.v, lists.i, lists.o].map((list) => list.map((pair) => pair.map(short)))
    return { c, v: v ?? [], i: i ?? [], o: o ?? [] }
  })
}

/** Lines with as many points as the longest of them, all closed or all open, as the format asks for: the last point stands for more. */
function alike(lines: readonly Bezier[]): readonly Bezier[] {
  const closed = lines.every(({ c }) => c)
  const opened = closed ? lines : lines.map(open)
  const most = Math.max(...opened.map(({ v }) => v.length))
  return opened.map(({ c, v, i, o }) => {
    const more = Array.from({ length: most - v.length }, () => v.at(-1) as number[])
    const still = more.map(() => [0, 0])
    return { c, v: [...v, ...more], i: [...i, ...still], o: [...o, ...still] }
  })
}

/** A closed line as an open one that comes back to its first point. */
const open = ({ c, v, i, o }: Bezier): Bezier =>
  c
    ? {
        c: false,
        v: [...v, v[0] as number[]],
        i: [[0, 0], ...i.slice(1), i[0] as number[]],
        o: [...o, [0, 0]],
      }
    : { c, v, i, o }

/** The lines of a path along the loop, each as a shape of its own. */
export function shapesOf(paths: readonly Path[]): LottieJson[] {
  const lines = paths.map(beziersOf)
  const most = Math.max(0, ...lines.map(({ length }) => length))
  const nothing: Bezier = { c: false, v: [[0, 0]], i: [[0, 0]], o: [[0, 0]] }
  return Array.from({ length: most }, (_, at) => {
    const own = alike(lines.map((each) => each[at] ?? nothing))
    const [first] = own as [Bezier]
    const flat = own.map(({ v, i, o }) => [v, i, o].flat(2))
    const keys = keysOf(flat, LOTTIE_TOLERANCE)
    if (keys.length < 2) return { ty: 'sh', ks: plain(first) }
    const linear = { i: { x: 1, y: 1 }, o: { x: 0, y: 0 } }
    const points = first.v.length
    const pairs = (values: readonly number[], from: number) =>
      Array.from({ length: points }, (_, p) => values.slice(2 * (from * points + p), 2 * (from * points + p) + 2))
    const line = (values: readonly number[]) => ({
      c: first.c,
      v: pairs(values, 0),
      i: pairs(values, 1),
      o: pairs(values, 2),
    })
    return {
      ty: 'sh',
      ks: { a: 1, k: keys.map(({ values }, k) => ({ t: momentOf(keys, k), s: [line(values)], ...linear })) },
    }
  })
}

export const boxPath = (x: number, y: number, w: number, h: number): Bezier => ({
  c: true,
  v: [
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ],
  i: Array.from({ length: 4 }, () => [0, 0]),
  o: Array.from({ length: 4 }, () => [0, 0]),
})
