import { readdirSync, readFileSync } from 'node:fs'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { checkMotions } from '../src/core/closing'
import { parseLoop } from '../src/core/document'
import { evaluate } from '../src/core/evaluate'
import { renderInNode } from '../src/render/node'
import { DEMO_LOOPS } from './build'
import { breakwater, pierAtNight } from './stills'
import { storedState, verdictOf } from './verdict'

const folder = new URL('./loops/', import.meta.url)
const fileOf = (still: string) => readFileSync(new URL(`./loops/assets/${still}.jpg`, import.meta.url))
const known: Record<string, string> = JSON.parse(readFileSync(new URL('./verdicts.json', import.meta.url), 'utf8'))

describe.each(readdirSync(folder).filter((name) => name.endsWith('.cyclon.json')))('%s', (file) => {
  const loop = parseLoop(readFileSync(new URL(file, folder), 'utf8'))
  it('is what its script makes', async () => {
    expect(await DEMO_LOOPS[file.replace('.cyclon.json', '')]?.()).toEqual(loop)
  })
  it('closes, by its motions and by its pictures', async () => {
    const motions = checkMotions(loop)
    expect(motions.length).toBeGreaterThan(0)
    expect(motions.every(({ home, repeatsFrame, hesitates }) => home && !repeatsFrame && !hesitates)).toBe(true)
    const verdict = await verdictOf(loop)
    expect(verdict).toBe('closes')
    // A library that is opened for the first time is told so.
    expect(known[storedState(readFileSync(new URL(file, folder), 'utf8'))]).toBe(verdict)
  })
})

describe('the stills', () => {
  it.each([pierAtNight(), breakwater()])('are what their scripts draw: $name', async (still) => {
    // Grain and small waves are drawn for the full size; what is left of them at an eighth is little.
    const width = still.width / 8
    const height = still.height / 8
    const kept = await sharp(fileOf(still.id)).resize(width, height).ensureAlpha().raw().toBuffer()
    const { data } = renderInNode(evaluate(still, 0), width, height)
    const off = kept.reduce((sum, value, i) => sum + Math.abs(value - (data[i] as number)), 0) / kept.length
    expect(off).toBeLessThan(8)
    expect(await sharp(fileOf(still.id)).metadata()).toMatchObject({ width: 1280, height: 720, format: 'jpeg' })
  })
})
