import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { inOrder, missingNumbers, picturesAmong } from './numbering'

describe('numbered pictures', () => {
  it('come in the order of their numbers, however they are written and given', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(9999), { minLength: 2, maxLength: 40 }), fc.boolean(), (numbers, padded) => {
        const name = (n: number) => `wake_${padded ? String(n).padStart(5, '0') : n}.png`
        const ordered = [...numbers].sort((a, b) => a - b)
        expect(inOrder(numbers.map(name))).toEqual(ordered.map(name))
        const missing = missingNumbers(ordered.map(name)).flatMap((gap) => {
          const [from, to = from] = gap.split(' to ').map(Number) as [number, number?]
          return Array.from({ length: to - from + 1 }, (_, i) => from + i)
        })
        const all = Array.from(
          { length: (ordered.at(-1) ?? 0) - (ordered[0] ?? 0) + 1 },
          (_, i) => (ordered[0] ?? 0) + i,
        )
        expect([...missing, ...ordered].sort((a, b) => a - b)).toEqual(all)
      }),
    )
  })
  it('come before those without a number', () => {
    expect(inOrder(['cover.png', 'wake10.png', 'wake9.png', 'back.png'])).toEqual([
      'wake9.png',
      'wake10.png',
      'back.png',
      'cover.png',
    ])
    expect(missingNumbers(['cover.png', 'wake3.png'])).toEqual([])
  })
  it('are those of the folder that holds most; what systems add is left out', () => {
    const paths = ['notes.txt', '__MACOSX/a/._1.png', 'a/.hidden.png', 'a/2.png', 'a/1.png', 'b/1.png', 'a/10.png']
    expect(picturesAmong(paths)).toEqual(['a/1.png', 'a/2.png', 'a/10.png'])
    expect(picturesAmong(['read me.txt', 'wake.mp4'])).toEqual(['wake.mp4'])
    expect(picturesAmong(['read me.txt'])).toEqual([])
  })
})
