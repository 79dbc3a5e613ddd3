import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pathBox, pathRuler } from '../path'
import { ALIGNMENTS, FACES, missingCharacters, type Setting, textPath } from '.'

const plain: Setting = { face: 'regular', size: 40, align: 'left', lineHeight: 1.2, spacing: 0 }
const width = (text: string, setting: Partial<Setting> = {}) =>
  pathBox(textPath(text, { ...plain, ...setting }))?.width ?? 0
const words = fc.constantFrom('Pier', 'Ferry at noon', 'Saltmere Light', 'A1', 'Überfahrt', 'iiii', 'WWWW')

describe('text', () => {
  it('grows with its size, in both directions alike', () => {
    fc.assert(
      fc.property(
        words,
        fc.constantFrom(...FACES),
        fc.double({ min: 4, max: 200, noNaN: true }),
        (text, face, size) => {
          const [small, large] = [1, 2].map((times) => pathBox(textPath(text, { ...plain, face, size: size * times })))
          expect((large?.width ?? 0) / (small?.width ?? 1)).toBeCloseTo(2, 6)
          expect((large?.height ?? 0) / (small?.height ?? 1)).toBeCloseTo(2, 6)
        },
      ),
    )
  })
  it('lies about the middle of its block, however its lines are set', () => {
    fc.assert(
      fc.property(words, words, fc.constantFrom(...ALIGNMENTS), (a, b, align) => {
        const box = pathBox(textPath(`${a}\n${b}`, { ...plain, align }))
        if (!box) throw new Error('words have a box')
        expect(Math.abs(box.x + box.width / 2)).toBeLessThan(plain.size)
        expect(box.height).toBeGreaterThan(plain.size)
      }),
    )
  })
  it('sets every character of the mono face equally wide', () => {
    const advance = (text: string) => width(`|${text}|`, { face: 'mono' })
    expect(advance('iiii')).toBeCloseTo(advance('WWWW'), 6)
    expect(width('iiii')).toBeLessThan(width('WWWW'))
  })
  it('kerns pairs, and spaces by ems', () => {
    expect(width('AV') - width('AV', { spacing: 0.5 })).toBeCloseTo(-0.5 * plain.size, 6)
    expect(width('AVAVAV')).toBeLessThan(6 * plain.size)
  })
  it('sets what a face does not have as a question mark, and says so', () => {
    expect(textPath('漢', plain)).toEqual(textPath('?', plain))
    expect(missingCharacters('Pier 漢漢字\n', 'regular')).toEqual(['漢', '字'])
  })
  it('of nothing is nothing', () => {
    expect(textPath('', plain)).toEqual([])
    expect(pathRuler(textPath(' ', plain)).length).toBe(0)
  })
})
