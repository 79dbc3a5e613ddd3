import { FILE_FORMATS, type FileTiming, formatRate, toNumber } from '@/core/clock'
import type { Loop } from '@/core/document'
import { type ExactClock, exactClocks, heldOnScreen, isVector, timingIn } from '@/core/output'
import { useExport } from '@/store/export'
import { FORMAT_NAMES } from './formats'

function rateWords({ thinned, exact }: FileTiming, others: readonly ExactClock[]): string {
  if (thinned) return 'fewer frames, evenly'
  return exact ? 'exact' : `in turn; even at ${others.map(({ rate }) => formatRate(rate)).join(' or ')}`
}

const heldWords = (least: number, most: number): string =>
  least === most ? `held for ${least}, evenly` : `held for ${least} to ${most}`

/** The loop's rate in every format, before anything is written. */
export function TruthTable({ loop }: { loop: Loop }) {
  const { settings } = useExport()
  return (
    <section className="mx-auto max-w-3xl">
      <h2 className="text-base font-semibold">
        What {formatRate(loop.rate)} frames per second become in each kind of file
      </h2>
      <p className="dim mt-1 mb-3">
        After writing, a file is read back by a decoder that is not its encoder; its proof is shown here.
      </p>
      <table className="table table-xs [&_th]:text-base-content" aria-label="Truth beforehand">
        <thead>
          <tr>
            <th scope="col">format</th>
            <th scope="col">frames</th>
            <th scope="col">delays</th>
            <th scope="col">timing</th>
            <th scope="col">on a 60 Hz screen</th>
            <th scope="col">repeats</th>
          </tr>
        </thead>
        <tbody>
          {FILE_FORMATS.map((format) => {
            const timing = timingIn(loop, { ...settings, format, repeats: 1, every: 1 })
            const ms = [...new Set(timing.delays.map((delay) => Number((1000 * toNumber(delay)).toFixed(2))))].sort(
              (a, b) => a - b,
            )
            const { least, most } = heldOnScreen(timing)
            const untimed = format === 'png-sequence'
            const vector = isVector(format)
            const others = exactClocks(format, loop.length, loop.rate).filter(({ exact }) => exact === 'delays')
            return (
              <tr key={format} className={settings.format === format ? 'bg-neutral' : ''}>
                <th scope="row" className="font-normal">
                  {FORMAT_NAMES[format]}
                </th>
                <td className="figures">{vector ? 'any moment' : timing.delays.length}</td>
                <td className="figures">{untimed || vector ? '—' : `${ms.join(' and ')} ms`}</td>
                <td className={timing.exact ? 'text-accent' : 'text-primary'}>
                  {untimed ? 'told elsewhere' : rateWords(timing, others)}
                </td>
                <td>{untimed || vector ? '—' : heldWords(least, most)}</td>
                <td>{REPEATS[format]}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </section>
  )
}

const REPEATS = {
  gif: 'says so',
  apng: 'says so',
  webp: 'says so',
  avif: 'says so',
  svg: 'says so',
  mp4: 'its player',
  webm: 'its player',
  lottie: 'its player',
  'png-sequence': 'the program that reads it',
  'sprite-sheet': 'says so',
} as const
