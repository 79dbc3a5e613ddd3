import { readdirSync } from 'node:fs'
import { cpus } from 'node:os'
import type { Browser, Page } from '@playwright/test'
import type { Loop } from '../src/core/document'
import { measureCores } from './cores'
import { blurredLoop, longLoop, MEASURED, measureExports, measureTogether } from './export-run'
import { type WeighedGif, weighAll } from './gif-size'

const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`

/** The lightest of ours that is no further off than another; null where none is. */
const lightest = (ours: readonly WeighedGif[], other: WeighedGif): WeighedGif | null =>
  ours
    .filter(({ error }) => error <= other.error)
    .reduce<WeighedGif | null>((best, each) => (!best || each.bytes < best.bytes ? each : best), null)

/** GIFs of all demo loops, against a plain one and the media encoder at the palette setting that is least off. */
async function gifRows(): Promise<string[]> {
  let own = 0
  let plain = 0
  let ofPlain = 0
  let media = 0
  let ofMedia = 0
  let worse = 0
  const names = readdirSync('demo/loops')
  for (const name of names) {
    const all = await weighAll(name)
    const best = all.media.reduce((a, b) => (b.error < a.error || (b.error === a.error && b.bytes < a.bytes) ? b : a))
    const againstPlain = lightest(all.ours, all.plain)
    const againstMedia = lightest(all.ours, best)
    if (!againstPlain || !againstMedia) {
      worse++
      continue
    }
    own += againstPlain.bytes
    plain += all.plain.bytes
    ofMedia += againstMedia.bytes
    media += best.bytes
    ofPlain++
  }
  const kB = (bytes: number) => `${(bytes / 1000).toFixed(0)} kB`
  const note = worse > 0 ? `, ${worse} never as near` : ''
  return [
    `| GIFs of ${ofPlain} demo loops, 480 px wide, none further off${note} | a plain encode: one palette, frames whole | ${kB(own)} against ${kB(plain)} | ${(own / plain).toFixed(2)} | < 1 |`,
    `| the same | the media encoder at its best palette setting for each | ${kB(ofMedia)} against ${kB(media)} | ${(ofMedia / media).toFixed(2)} | < 1 |`,
  ]
}

/** The rows of the table about files. */
export async function exportRows(
  browser: Browser,
  page: Page,
  base: string,
  bundle: (entry: string) => Promise<string>,
): Promise<string[]> {
  const exported = await measureExports(page, `${base}/file`, bundle)
  const together = async (what: string, loop: Loop, times?: number) => {
    const { together: once, alone } = await measureTogether(page, base, loop, times)
    const sum = alone.reduce((a, b) => a + b, 0)
    return `| ${MEASURED.length} formats in one run, proofs and all, ${what} | the sum of a run for each | ${seconds(once)} against ${seconds(sum)} | ${(once / sum).toFixed(2)} | < 0.7 |`
  }
  const { cores, seconds: took } = await measureCores(browser, page, base)
  const all = (of: 'whole' | 'alone') => exported.reduce((total, each) => total + each[of], 0)
  return [
    ...exported.map(
      ({ format, whole, alone: only }) =>
        `| draw and write 240 frames, 12 layers, ${format} | encode the same frames, already drawn | ${seconds(whole)} against ${seconds(only)} | ${(whole / only).toFixed(2)} | ≤ 1.2 |`,
    ),
    `| all five of them | the same | ${seconds(all('whole'))} against ${seconds(all('alone'))} | ${(all('whole') / all('alone')).toFixed(2)} | ≤ 1.2 |`,
    `| cores that a GIF of 240 frames keeps busy while it is drawn and written | the cores that there are | ${cores.toFixed(2)} of ${cpus().length}, ${took.toFixed(1)} s | ${(cores / cpus().length).toFixed(2)} | ≥ 0.85 |`,
    await together('240 frames', longLoop()),
    await together('60 frames of eight exposures each', blurredLoop(), 1),
    ...(await gifRows()),
  ]
}
