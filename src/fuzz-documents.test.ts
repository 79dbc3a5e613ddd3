import fc from 'fast-check'
import { afterAll, describe, expect, it } from 'vitest'
import { TEST_CLIP, TEST_PICTURE } from './cli/test-media'
import { unzipProject, zipProject } from './codecs'
import { formatLoop, LoopFileError, parseLoop, tooMuchToDraw, unopenable } from './core/document'
import { evaluate } from './core/evaluate'
import { readSvg, SvgError } from './core/svg'
import { anyLoop } from './core/testing/arbitrary'
import { damage, damaged, EMPTY, orRefuses, SEED, sayFuzzed } from './core/testing/fuzz'
import { seenLoop } from './core/testing/seen'

afterAll(sayFuzzed)

describe('damaged and hostile documents', () => {
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
  })

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
  })

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
  })

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
  })
})
