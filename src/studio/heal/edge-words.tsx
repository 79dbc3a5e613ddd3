import type { EdgeReport } from '@/core/texture'
import { classNames } from '../parts'

const DIRECTIONS = { x: 'across', y: 'down' } as const

/** The verdict on an edge, in words, with by how much it is larger than what is inside. */
export function EdgeWords({ axis, edge }: { axis: 'x' | 'y'; edge: EdgeReport }) {
  const closes = edge.verdict === 'closes'
  return (
    <span className={classNames('figures whitespace-nowrap text-2xs', closes ? 'text-accent' : 'text-error')}>
      {closes ? '○' : '×'} {DIRECTIONS[axis]}: {closes ? 'closes' : 'shows an edge'}, {edge.ratio.toFixed(2)}
    </span>
  )
}
