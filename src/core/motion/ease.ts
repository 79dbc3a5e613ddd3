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

/** What a CSS ease says, or null where it is none. */
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
