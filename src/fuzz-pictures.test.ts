import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { encodeCase } from '../bench/corpus/encode'
import { casesOf } from '../bench/corpus/faults'
import { SCENES } from '../bench/corpus/scenes'
import { decodeFrames } from './cli/decode'
import { decodeGif } from './codecs'
import { ClipError, readClaims } from './codecs/claims'
import { MAX_PIXELS } from './core/image'
import { damage, damaged, fuzzed, HANG_MS, orRefuses, SEED, sayFuzzed, timed } from './core/testing/fuzz'

const files = new Map<string, Uint8Array>()
beforeAll(async () => {
  const [scene] = SCENES
  const [sound] = scene ? casesOf(scene, { size: 24, frames: 8, delayMs: 40 }) : []
  if (!sound) throw new Error('the corpus is empty')
  for (const encoder of ['gif, one palette', 'gif, dithered', 'apng', 'webp'] as const)
    files.set(encoder, await encodeCase(sound, encoder))
})

afterAll(sayFuzzed)

describe('damaged and hostile pictures', () => {
  it('of GIF, PNG and WebP files is read or refused by what reads their claims, and by our GIF decoder', () => {
    fc.assert(
      fc.property(fc.constantFrom(...files.keys()), damage, (name, steps) => {
        const bytes = damaged(files.get(name) as Uint8Array, steps)
        orRefuses(`claims of ${name}`, [ClipError], () => readClaims(bytes))
        if (name.startsWith('gif'))
          timed(`decoding ${name}`, () => {
            try {
              for (const frame of decodeGif(bytes).frames()) expect(frame.data.length).toBeGreaterThan(0)
            } catch (error) {
              expect(error).toBeInstanceOf(Error)
            }
          })
      }),
      { numRuns: 2500, seed: SEED },
    )
  })

  it('of moving pictures is decoded or refused', async () => {
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...files.keys()), damage, async (name, steps) => {
        const bytes = damaged(files.get(name) as Uint8Array, steps)
        const start = performance.now()
        try {
          for await (const frame of decodeFrames(bytes, readClaims(bytes))) expect(frame.data.length).toBeGreaterThan(0)
        } catch (error) {
          expect(error, String(error)).toBeInstanceOf(ClipError)
        }
        fuzzed.cases++
        expect(performance.now() - start).toBeLessThan(HANG_MS)
      }),
      { numRuns: 300, seed: SEED },
    )
  })

  it('whose numbers promise too much is decoded or refused, within bounds of memory', async () => {
    const before = process.memoryUsage().arrayBuffers
    let read = 0
    let refused = 0
    let most = 0
    const places = fc.tuple(fc.constantFrom(...files.keys()), fc.nat(), fc.constantFrom(2, 4), fc.boolean())
    await fc.assert(
      fc.asyncProperty(places, async ([name, place, width, all]) => {
        const bytes = Uint8Array.from(files.get(name) as Uint8Array)
        // Half of them in the head, where most numbers are.
        const at = place % ((place & 64) === 0 ? Math.min(64, bytes.length) : bytes.length)
        bytes.fill(0xff, at, at + width)
        if (!all) bytes[at] = 0x7f
        try {
          for await (const frame of decodeFrames(bytes, readClaims(bytes))) {
            expect(frame.data.length).toBeGreaterThan(0)
            break
          }
          read++
        } catch (error) {
          expect(error, String(error)).toBeInstanceOf(ClipError)
          refused++
        }
        most = Math.max(most, process.memoryUsage().arrayBuffers - before)
        fuzzed.cases++
      }),
      { numRuns: 600, seed: SEED },
    )
    expect(Math.min(read, refused)).toBeGreaterThan(100)
    // A picture of the most pixels that there may be, as it is decoded and as it is given on.
    expect(most).toBeLessThan(3 * 4 * MAX_PIXELS)
    process.stdout.write(`\npromises: ${read} read, ${refused} refused, ${Math.round(most / 1e6)} MB at the most\n`)
  })
})
