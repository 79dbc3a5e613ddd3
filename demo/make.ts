import { mkdirSync, writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import sharp from 'sharp'
import { formatLoop } from '../src/core/document'
import { evaluate } from '../src/core/evaluate'
import { renderInNode } from '../src/render/node'
import { DEMO_CLIPS, writeClip } from './clips'
import { breakwater, pierAtNight } from './stills'
import { capstanModel, mooringBuoyModel, signalLampModel } from './workshop'

/**
 * Draws the stills and models the models to demo/loops/assets, films the clips to demo/clips (some minutes) and writes the demo loops to demo/loops: `npm run demo:make`. With `--loops` the media stay as they are, and
 * with them the ids by which loops name them.
 */
const folderOf = (name: string) => {
  const folder = new URL(`./${name}/`, import.meta.url)
  mkdirSync(folder, { recursive: true })
  return folder
}
const QUALITY = 88

if (!process.argv.includes('--loops'))
  for (const still of [pierAtNight(), breakwater()]) {
    const { width, height, data } = renderInNode(evaluate(still, 0))
    const raw = sharp(data, { raw: { width, height, channels: 4 } })
    const jpeg = await raw.removeAlpha().jpeg({ quality: QUALITY }).toBuffer()
    writeFileSync(new URL(`${still.id}.jpg`, folderOf('loops/assets')), jpeg)
  }

if (!process.argv.includes('--loops'))
  for (const [name, build] of Object.entries({
    'mooring-buoy': mooringBuoyModel,
    capstan: capstanModel,
    'signal-lamp': signalLampModel,
  }))
    writeFileSync(new URL(`${name}.glb`, folderOf('loops/assets')), await build())

if (!process.argv.includes('--loops'))
  for (const [name, clip] of Object.entries(DEMO_CLIPS))
    await writeClip(clip, fileURLToPath(new URL(`${name}.webm`, folderOf('clips'))))

// After the media, which the loops name by their bytes.
const { DEMO_LOOPS } = await import('./build')
const { storedState: stateOf, verdictOf } = await import('./verdict')
const verdicts: Record<string, string> = {}
for (const [name, build] of Object.entries(DEMO_LOOPS)) {
  const loop = await build()
  const text = formatLoop(loop)
  writeFileSync(new URL(`${name}.cyclon.json`, folderOf('loops')), text)
  verdicts[stateOf(text)] = await verdictOf(loop)
}
writeFileSync(new URL('./verdicts.json', import.meta.url), `${JSON.stringify(verdicts, null, 2)}\n`)
