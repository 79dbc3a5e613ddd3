import type { SeamReport } from '../../seam'
import type { ClipCut } from './costs'
import { alike, type Found } from './find'

/** Verdict and ratio at the seam of a cut. */
export type Seen = Pick<SeamReport, 'ratio' | 'verdict'>

/**
 * Looks at the seams of found loops: where one does not close, those near it are looked at, too, and the first that does is taken. What then is
 * nearly the same as one before is left out; those that close come first, else as they were found.
 * @param look judges the pictures of a cut
 */
export async function refined<T extends Seen>(
  found: readonly Found[],
  look: (cut: ClipCut) => Promise<T>,
): Promise<(ClipCut & T)[]> {
  const taken: (ClipCut & T)[] = []
  for (const { near, ...cut } of found) {
    let best = { ...cut, ...(await look(cut)) }
    for (const other of near) {
      if (best.verdict === 'closes') break
      const seen = { ...other, ...(await look(other)) }
      if (seen.verdict === 'closes') best = seen
    }
    if (!taken.some((each) => alike(each, best))) taken.push(best)
  }
  const closes = ({ verdict }: Seen) => (verdict === 'closes' ? 0 : 1)
  return taken.toSorted((a, b) => closes(a) - closes(b))
}
