import bezierEasing from 'bezier-easing'

/**
 * How a value moves from one key to the next, as CSS writes it (CSS Easing Functions 1): `linear`, `ease`, `ease-in`,
 * `ease-out`, `ease-in-out`, `cubic-bezier(x1, y1, x2, y2)`, `step-start`, `step-end`, `steps(n, position)`. `hold` keeps
 * the value until the next key.
 */
export type Ease = string

/** The named eases that are offered, in the order in which they are shown. */
export const NAMED_EASES = ['linear', 'ease', 'ease-in', 'ease-out', 'ease-in-out', 'hold'] as const

const NAMED_BEZIERS: Record<string, readonly [number, number, number, number]> = {
  ease: [0.25, 0.1, 0.25, 1],
  'ease-in': [0.42, 0, 1, 1],
  'ease-out': [0, 0, 0.58, 1],
  'ease-in-out': [0.42, 0, 0.58, 1],
}

export type ParsedEase =
  | { readonly type: 'linear' | 'hold' }
  | { readonly type: 'bezier'; readonly points: readonly [number, number, number, number] }
  | { readonly type: 'steps'; readonly count: number; readonly position: StepPosition }
type StepPosition = 'jump-start' | 'jump-end' | 'jump-none' | 'jump-both'

const NUMBER = '\\s*(-?(?:\\d+\\.?\\d*|\\.\\d+)(?:e[+-]?\\d+)?)\\s*'
const BEZIER = new RegExp(`^cubic-bezier\\(${NUMBER},${NUMBER},${NUMBER},${NUMBER}\\)$`, 'i')
const STEPS = /^steps\(\s*(\d{1,4})\s*(?:,\s*(jump-start|jump-end|jump-none|jump-both|start|end)\s*)?\)$/

/** A parsed CSS ease; null if the text is none. */
export function parseEase(ease: Ease): ParsedEase | null {
  if (ease === 'linear' || ease === 'hold') return { type: ease }
  if (ease === 'step-end') return { type: 'steps', count: 1, position: 'jump-end' }
  if (ease === 'step-start') return { type: 'steps', count: 1, position: 'jump-start' }
  const named = Object.hasOwn(NAMED_BEZIERS, ease) ? NAMED_BEZIERS[ease] : undefined
  if (named) return { type: 'bezier', points: named }
  const bezier = BEZIER.exec(ease)
  if (bezier) {
    const [x1 = 0, y1 = 0, x2 = 0, y2 = 0] = bezier.slice(1).map(Number)
    const inside = x1 >= 0 && x1 <= 1 && x2 >= 0 && x2 <= 1 && Math.abs(y1) <= 100 && Math.abs(y2) <= 100
    return inside ? { type: 'bezier', points: [x1, y1, x2, y2] } : null
  }
  const steps = STEPS.exec(ease)
  if (!steps) return null
  const count = Number(steps[1])
  const word = steps[2] ?? 'end'
  const position = (word.startsWith('jump-') ? word : `jump-${word}`) as StepPosition
  return count < (position === 'jump-none' ? 2 : 1) ? null : { type: 'steps', count, position }
}

/** A share of a segment so near a step that rounding alone separates them; values just below count as reached. */
export const SNAP = 1e-9

function easeFunction(ease: Ease): (t: number) => number {
  const parsed = parseEase(ease)
  if (!parsed) throw new RangeError(`“${ease}” is not a CSS easing function`)
  switch (parsed.type) {
    case 'linear':
      return (t) => t
    case 'hold':
      return () => 0
    case 'bezier': {
      const curve = bezierEasing(...parsed.points)
      return (t) => curve(t)
    }
    case 'steps': {
      const { count, position } = parsed
      const jumps = count + (position === 'jump-both' ? 1 : position === 'jump-none' ? -1 : 0)
      const lead = position === 'jump-start' || position === 'jump-both' ? 1 : 0
      return (t) => Math.min(jumps, Math.floor(t * count + SNAP) + lead) / jumps
    }
  }
}

const cache = new Map<Ease, (t: number) => number>()

/**
 * Progress (0 … 1, beyond for overshooting curves) of an ease at the share t ∈ [0, 1) of its segment.
 * @throws RangeError when the ease is not a CSS easing function.
 */
export function easeAt(ease: Ease, t: number): number {
  let curve = cache.get(ease)
  if (!curve) {
    if (cache.size > 2000) cache.clear()
    curve = easeFunction(ease)
    cache.set(ease, curve)
  }
  return curve(t)
}

const bezierText = (points: readonly number[]) => `cubic-bezier(${points.map((x) => Number(x.toFixed(6))).join(', ')})`

/** The ease as it looks when time runs backwards: what `ease-in` does, `ease-out` undoes. */
export function reverseEase(ease: Ease): Ease {
  const parsed = parseEase(ease)
  if (!parsed) return ease
  switch (parsed.type) {
    case 'hold':
      return 'step-start'
    case 'bezier': {
      const [x1, y1, x2, y2] = parsed.points
      const named = Object.entries(NAMED_BEZIERS).find(([, points]) =>
        [1 - x2, 1 - y2, 1 - x1, 1 - y1].every((x, i) => Math.abs(x - (points[i] as number)) < 1e-9),
      )
      return named?.[0] ?? bezierText([1 - x2, 1 - y2, 1 - x1, 1 - y1])
    }
    case 'steps': {
      const { count, position } = parsed
      const turned = { 'jump-start': 'jump-end', 'jump-end': 'jump-start' }[position as string] ?? position
      return count === 1 && turned === 'jump-end' ? 'hold' : `steps(${count}, ${turned})`
    }
    case 'linear':
      return ease
  }
}

/**
 * The two eases that together do what one does, parted at the share t of its time: `progress` is how far it has got
 * there. Curves are parted exactly (de Casteljau); an ease that cannot be parted gives null.
 */
export function splitEase(ease: Ease, t: number): { before: Ease; after: Ease; progress: number } | null {
  const parsed = parseEase(ease)
  if (!parsed || t <= 0 || t >= 1) return null
  if (parsed.type === 'linear') return { before: 'linear', after: 'linear', progress: t }
  if (parsed.type === 'hold') return { before: 'hold', after: 'hold', progress: 0 }
  if (parsed.type !== 'bezier') return null
  const [x1, y1, x2, y2] = parsed.points
  const along = (a: number, b: number, s: number) => 3 * (1 - s) * (1 - s) * s * a + 3 * (1 - s) * s * s * b + s * s * s
  let low = 0
  let high = 1
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2
    if (along(x1, x2, middle) < t) low = middle
    else high = middle
  }
  const s = (low + high) / 2
  const halves = (a: number, b: number) => {
    const p01 = a * s
    const p12 = a + (b - a) * s
    const p23 = b + (1 - b) * s
    const p012 = p01 + (p12 - p01) * s
    const p123 = p12 + (p23 - p12) * s
    return { first: [p01, p012], middle: p012 + (p123 - p012) * s, second: [p123, p23] } as const
  }
  const x = halves(x1, x2)
  const y = halves(y1, y2)
  if (Math.abs(y.middle) < 1e-9 || Math.abs(1 - y.middle) < 1e-9) return null
  const part = (points: readonly [number, number, number, number]) =>
    points.every((value) => Math.abs(value) <= 100) ? bezierText(points) : null
  const unit = (value: number) => Math.min(1, Math.max(0, value))
  const before = part([
    unit(x.first[0] / x.middle),
    y.first[0] / y.middle,
    unit(x.first[1] / x.middle),
    y.first[1] / y.middle,
  ])
  const rest = (value: number, from: number) => (value - from) / (1 - from)
  const after = part([
    unit(rest(x.second[0], x.middle)),
    rest(y.second[0], y.middle),
    unit(rest(x.second[1], x.middle)),
    rest(y.second[1], y.middle),
  ])
  return before && after ? { before, after, progress: y.middle } : null
}
