import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import { encodeCase } from '../bench/corpus/encode'
import { casesOf } from '../bench/corpus/faults'
import { SCENES } from '../bench/corpus/scenes'
import { decodeFrames } from './cli/decode'
import { TEST_CLIP, TEST_PICTURE } from './cli/test-media'
import { decodeGif, unzipProject, zipProject } from './codecs'
import { ClipError, readClaims } from './codecs/claims'
import { formatLoop, LoopFileError, parseLoop, tooMuchToDraw, unopenable } from './core/document'
import { evaluate } from './core/evaluate'
import { MAX_PIXELS } from './core/image'
import { readSvg, SvgError } from './core/svg'
import { anyLoop } from './core/testing/arbitrary'
import { seenLoop } from './core/testing/seen'

/**
 * Damaged and hostile input of every kind that can be read in Node: whatever comes, it is read, or refused in words. Seeded, so that a run
 * can be had again; the longest single case is printed.
 */
const SEED = 20_261_128
/** A case that takes so long hangs: thousands of times what any of them takes. */
const HANG_MS = 10_000

let longest = { what: '', ms: 0 }
let cases = 0
function timed<T>(what: string, work: () => T): T {
  const start = performance.now()
  try {
    return work()
  } finally {
    const ms = performance.now() - start
    cases++
    if (ms > longest.ms) longest = { what, ms }
    expect(ms, `${what} hangs`).toBeLessThan(HANG_MS)
  }
}

/** What is done to bytes: cut, set, repeated, left out. */
const damage = fc.array(
  fc.record({
    how: fc.constantFrom('cut', 'set', 'flip', 'repeat', 'drop'),
    at: fc.nat(),
    by: fc.nat(255),
    length: fc.nat(40),
  }),
  { minLength: 1, maxLength: 6 },
)
type Damage = typeof damage extends fc.Arbitrary<infer T> ? T : never

function damaged(bytes: Uint8Array, steps: Damage): Uint8Array {
  return steps.reduce((from: Uint8Array, { how, at, by, length }) => {
    if (from.length === 0) return from
    const place = at % from.length
    const copy = Uint8Array.from(from)
    switch (how) {
      case 'cut':
        return copy.subarray(0, place)
      case 'set':
        copy[place] = by
        return copy
      case 'flip':
        copy[place] = (copy[place] as number) ^ (1 << (by % 8))
        return copy
      case 'repeat':
        return Uint8Array.from([
          ...copy.subarray(0, place),
          ...copy.subarray(place, place + length),
          ...copy.subarray(place),
        ])
      case 'drop':
        return Uint8Array.from([...copy.subarray(0, place), ...copy.subarray(place + length)])
      default:
        return how satisfies never
    }
  }, bytes)
}

/** Runs what may refuse, but only in words of its own. */
function orRefuses(what: string, kinds: readonly (new (...of: never[]) => Error)[], work: () => unknown): void {
  timed(what, () => {
    try {
      work()
    } catch (error) {
      expect(
        kinds.some((kind) => error instanceof kind),
        `${what}: ${(error as Error).stack}`,
      ).toBe(true)
      expect((error as Error).message).toMatch(/^[A-Z“<].{8,}/s)
    }
  })
}

const files = new Map<string, Uint8Array>()
beforeAll(async () => {
  const [scene] = SCENES
  const [sound] = scene ? casesOf(scene, { size: 24, frames: 8, delayMs: 40 }) : []
  if (!sound) throw new Error('the corpus is empty')
  for (const encoder of ['gif, one palette', 'gif, dithered', 'apng', 'webp'] as const)
    files.set(encoder, await encodeCase(sound, encoder))
})

describe('damaged and hostile input', () => {
  it('of documents is read or refused, and what is read can be drawn or says why not', () => {
    const texts = fc.oneof(
      anyLoop.map(formatLoop),
      seenLoop({ clip: TEST_CLIP, picture: TEST_PICTURE }).map(formatLoop),
    )
    fc.assert(
      fc.property(texts, damage, (text, steps) => {
        const bytes = damaged(new TextEncoder().encode(text), steps)
        orRefuses('a document', [LoopFileError], () => {
          const loop = parseLoop(new TextDecoder().decode(bytes))
          expect(unopenable(loop)).toBeNull()
          if (tooMuchToDraw(loop) === null) evaluate(loop, 0)
        })
      }),
      { numRuns: 1500, seed: SEED },
    )
  }, 240_000)

  it('of values in documents, of every type in every field, is read or refused', () => {
    const wild = fc.oneof(
      fc.constantFrom(
        null,
        true,
        '',
        '__proto__',
        'NaN',
        -1,
        0,
        1e308,
        -1e308,
        [],
        {},
        [[]],
        'var(--x)',
        'url(x)',
        'M0 0'.repeat(500),
      ),
      fc.double(),
      fc.string(),
    )
    fc.assert(
      fc.property(anyLoop, fc.array(fc.tuple(fc.nat(), wild), { minLength: 1, maxLength: 3 }), (loop, changes) => {
        const data = JSON.parse(formatLoop(loop))
        const places: { of: Record<string, unknown>; key: string }[] = []
        const visit = (of: unknown) => {
          if (typeof of !== 'object' || of === null) return
          for (const key of Object.keys(of)) {
            places.push({ of: of as Record<string, unknown>, key })
            visit((of as Record<string, unknown>)[key])
          }
        }
        visit(data)
        for (const [at, value] of changes) {
          const place = places[at % places.length]
          if (place) place.of[place.key] = value
        }
        orRefuses('a field', [LoopFileError], () => {
          const read = parseLoop(JSON.stringify(data))
          if (tooMuchToDraw(read) === null) evaluate(read, 7)
        })
      }),
      { numRuns: 2500, seed: SEED },
    )
  }, 240_000)

  it('of SVG files is read or refused', () => {
    const piece: fc.Arbitrary<string> = fc.constantFrom(
      ...[
        '<g>',
        '</g>',
        '<g transform="rotate(',
        '<rect width="9" height="9"/>',
        '<use href="#a"/>',
        '<g id="a">',
        '<path d="',
        'M0 0',
        'A1 1 0 0 1 9 9',
      ],
      ...[
        '"',
        '/>',
        '&amp;',
        '&#0;',
        '&#x110000;',
        '<style>',
        '</style>',
        '.a{fill:',
        '}',
        '/*',
        '<![CDATA[',
        ']]>',
        '<text>',
        '</text>',
        '1e309',
        '-',
        ' ',
      ],
      ...[
        '<linearGradient id="b">',
        '<stop offset="',
        'url(#b)',
        '<!DOCTYPE x [<!ENTITY a "b">]>',
        '&a;',
        '<svg viewBox="0 0 0 0">',
        'scale(1e300)',
      ],
    )
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 60 }), (pieces) => {
        const text = `<svg xmlns="http://www.w3.org/2000/svg">${pieces.join('')}</svg>`
        orRefuses('an SVG', [SvgError], () => {
          const { layer } = readSvg(text, 'Quay')
          expect(unopenable({ ...parseLoop(formatLoop(EMPTY)), layers: [layer] })).toBeNull()
        })
      }),
      { numRuns: 3000, seed: SEED },
    )
  }, 240_000)

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
  }, 240_000)

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
        cases++
        expect(performance.now() - start).toBeLessThan(HANG_MS)
      }),
      { numRuns: 300, seed: SEED },
    )
  }, 240_000)

  it('whose numbers promise too much is decoded or refused, within bounds of memory', async () => {
    const before = process.memoryUsage().arrayBuffers
    let [read, refused, most] = [0, 0, 0]
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
        cases++
      }),
      { numRuns: 600, seed: SEED },
    )
    expect(Math.min(read, refused)).toBeGreaterThan(100)
    // A picture of the most pixels that there may be, as it is decoded and as it is given on.
    expect(most).toBeLessThan(3 * 4 * MAX_PIXELS)
    process.stdout.write(`\npromises: ${read} read, ${refused} refused, ${Math.round(most / 1e6)} MB at the most\n`)
  }, 240_000)

  it('of archives is read or refused', async () => {
    const [loop] = fc.sample(seenLoop({ clip: TEST_CLIP, picture: TEST_PICTURE }), { numRuns: 1, seed: SEED })
    const archive = await zipProject(loop ?? EMPTY)
    await fc.assert(
      fc.asyncProperty(damage, async (steps) => {
        const outcome = await unzipProject(damaged(archive, steps)).catch((error: unknown) => error)
        orRefuses('an archive', [LoopFileError], () => {
          if (outcome instanceof Error) throw outcome
        })
      }),
      { numRuns: 800, seed: SEED },
    )
    process.stdout.write(`\nfuzzing: ${cases} cases; the longest, ${longest.what}, took ${longest.ms.toFixed(0)} ms\n`)
  }, 240_000)
})

const EMPTY = parseLoop(
  JSON.stringify({
    format: 'cyclon-loop',
    version: 2,
    id: 'quay',
    name: 'Quay',
    kind: 'loader',
    width: 40,
    height: 40,
    background: null,
    rate: { num: 25, den: 1 },
    length: 12,
    layers: [],
  }),
)
