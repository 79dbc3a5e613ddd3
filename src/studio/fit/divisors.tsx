'use client'

import { useMemo } from 'react'
import { type ShorterLoop, shorterLoops } from '@/core/closing'
import type { Loop } from '@/core/document'
import { divisors } from '@/core/fit'
import { changeLoop } from '@/store/document'
import { setSession } from '@/store/session'
import { type SeenBy, useSeen } from '../parts'
import type { WantedRow } from './use-fit'

/** Largest number of shorter loops that are offered. */
const OFFERED = 4

/** The shorter loops that are seen to be home at their ends; null while they are looked at. */
function useShorterLoops(loop: Loop): readonly ShorterLoop[] | null {
  const shorter = useMemo(() => shorterLoops(loop).slice(0, OFFERED), [loop])
  const ask = useMemo(
    () =>
      shorter.length > 0 ? (service: SeenBy) => Promise.all(shorter.map((each) => service.comesHome(each.loop))) : null,
    [shorter],
  )
  const seen = useSeen(ask, 'The shorter loops could not be looked at.')
  if (shorter.length === 0) return shorter
  return seen?.fresh ? shorter.filter((_, i) => seen.found[i]) : null
}

/** Counts that divide the length, what each gives, and the shorter loops that lie in this one. */
export function Divisors({ loop, rows }: { loop: Loop; rows: readonly WantedRow[] }) {
  const counts = useMemo(
    () => divisors(loop.length).filter((count) => count < loop.length || count === 1),
    [loop.length],
  )
  const shorter = useShorterLoops(loop)
  return (
    <>
      <section aria-label="Shorter loops">
        <h2 className="mb-1 text-xs font-semibold">Shorter loops in this one</h2>
        {!shorter ? (
          <p className="dim text-2xs">Looking …</p>
        ) : shorter.length === 0 ? (
          <p className="dim text-2xs">None: nothing here looks the same before its end.</p>
        ) : (
          <ul className="space-y-1">
            {shorter.map((each) => (
              <li key={each.length}>
                <button
                  type="button"
                  className="btn btn-ghost btn-xs figures hairline w-full justify-between border font-normal"
                  onPointerEnter={() => setSession({ preview: each.loop })}
                  onPointerLeave={() => setSession({ preview: null })}
                  onFocus={() => setSession({ preview: each.loop })}
                  onBlur={() => setSession({ preview: null })}
                  onClick={() => changeLoop(() => each.loop)}
                >
                  <span>{each.length} f show the same</span>
                  <span className="text-accent">{each.times} times in it</span>
                </button>
                {each.exchanged && <p className="dim text-2xs">Like layers stand in for one another at its end.</p>}
              </li>
            ))}
          </ul>
        )}
      </section>
      <section aria-label="Counts that divide the length">
        <h2 className="mb-1 text-xs font-semibold">Counts that divide {loop.length} f</h2>
        <table className="figures w-full text-2xs">
          <thead className="dim text-start">
            <tr>
              <th scope="col" className="text-start font-normal">
                cycles
              </th>
              <th scope="col" className="text-start font-normal">
                frames each
              </th>
              <th scope="col" className="text-start font-normal">
                degrees a frame
              </th>
            </tr>
          </thead>
          <tbody>
            {counts.slice(0, 24).map((count) => {
              const used = rows.some(({ cycles }) => cycles === count)
              return (
                <tr key={count} className={used ? 'text-primary' : ''}>
                  <td>
                    {count}
                    {used ? ' •' : ''}
                  </td>
                  <td>{loop.length / count}</td>
                  <td>{Number(((360 * count) / loop.length).toFixed(3))}°</td>
                </tr>
              )
            })}
          </tbody>
        </table>
      </section>
    </>
  )
}
