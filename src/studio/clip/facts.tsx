import type { ClipPlan } from '@/core/footage'
import { MIN_KEPT_DELAY_MS } from '@/core/seam'
import { exchangeClip, useClip } from '@/store/clip'
import type { ClipFacts } from '@/workers/inside/clip.worker'
import { chooseFiles } from './choose'

/** Facts of the file: its header's, and its current ones. */
export function Facts({ facts, plan }: { facts: ClipFacts; plan: ClipPlan }) {
  const { working } = useClip()
  const { claims, bytes, width, height, transparent } = facts
  const total = (delays: readonly number[]) => `${(delays.reduce((a, b) => a + b, 0) / 1000).toFixed(2)} s`
  const distinct = (delays: readonly number[]) => {
    const values = [...new Set(delays.map((delay) => Number(delay.toFixed(2))))].sort((a, b) => a - b)
    return values.length > 4 ? `${values[0]} … ${values.at(-1)} ms` : `${values.join(', ')} ms`
  }
  const plays = claims.plays === 0 ? 'for ever' : claims.plays === 1 ? 'once' : `${claims.plays} times`
  const rows: readonly (readonly [string, string, string])[] = [
    ['format', claims.format, ''],
    ['file', `${(bytes / 1000).toFixed(1)} kB`, ''],
    ['size', `${claims.width} × ${claims.height}`, width === claims.width ? '' : `${width} × ${height} kept`],
    ['frames', String(claims.delaysMs.length), String(plan.frames.length)],
    ['time', total(claims.delaysMs), total(plan.delaysMs)],
    ['delays', distinct(claims.delaysMs), distinct(plan.delaysMs)],
    ['plays', plays, plan.playsForever ? 'for ever' : plays],
    ['alpha', transparent ? 'yes' : 'none', ''],
  ]
  const replaced = claims.delaysMs.some((delay) => delay <= MIN_KEPT_DELAY_MS)
  return (
    <section aria-label="The file">
      <table className="figures w-full text-xs">
        <thead>
          <tr className="dim text-start">
            <td />
            <th scope="col" className="text-start font-normal">
              in the file
            </th>
            <th scope="col" className="text-start font-normal">
              mended
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([what, claimed, now]) => (
            <tr key={what}>
              <th scope="row" className="dim text-start font-normal">
                {what}
              </th>
              <td>{claimed}</td>
              <td className={now !== claimed ? 'text-primary' : 'dim'}>{now}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <button
        type="button"
        className="btn btn-ghost btn-xs font-normal"
        disabled={working !== null}
        title="The same frames in another size, or written otherwise: all that was done stays"
        onClick={async () => void exchangeClip(await chooseFiles())}
      >
        Exchange it for a better copy
      </button>
      {replaced && <p className="dim mt-1 text-xs">Delays of {MIN_KEPT_DELAY_MS} ms and less are shown as 100 ms.</p>}
      {claims.notes.map((note) => (
        <p key={note} className="dim mt-1 text-xs">
          Note: {note}.
        </p>
      ))}
    </section>
  )
}
