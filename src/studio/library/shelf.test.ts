import { describe, expect, it } from 'vitest'
import { fraction } from '@/core/clock'
import { newLayer } from '@/core/edit'
import { quay } from '@/core/testing/quay'
import type { LibraryEntry } from '@/store/library/list'
import { ORDERS, onShelf, usesIn } from './shelf'

const entry = (name: string, savedAt: number, change: Partial<typeof quay> = {}): LibraryEntry => ({
  id: name,
  savedAt,
  loop: { ...quay, layers: [], name, ...change },
})
const entries: LibraryEntry[] = [
  entry('Lamp 10', 3, { width: 100, height: 100, length: 50, rate: fraction(25) }),
  entry('Lamp 2', 5, { width: 400, height: 300, length: 50, rate: fraction(50), kind: 'texture' }),
  entry('Buoy', 4, { width: 200, height: 100, length: 75, rate: fraction(25), layers: [newLayer('ellipse', 'Float')] }),
  { id: 'broken', savedAt: 1, loop: null, problem: 'Its name is missing.' },
]
const names = (typed: string, order: (typeof ORDERS)[number] = 'last changed') =>
  onShelf(entries, typed, order).map(({ id }) => id)

describe('the shelf', () => {
  it('puts loops in order', () => {
    expect(names('')).toEqual(['Lamp 2', 'Buoy', 'Lamp 10', 'broken'])
    expect(names('', 'name')).toEqual(['broken', 'Buoy', 'Lamp 2', 'Lamp 10'])
    expect(names('', 'length')).toEqual(['broken', 'Lamp 2', 'Lamp 10', 'Buoy'])
    expect(names('', 'size')).toEqual(['Lamp 2', 'Buoy', 'Lamp 10', 'broken'])
    for (const order of ORDERS) expect(names('', order)).toHaveLength(4)
  })
  it('finds loops by all words, in names, kinds, sizes and layers', () => {
    expect(names('lamp')).toEqual(['Lamp 2', 'Lamp 10'])
    expect(names('LAMP texture')).toEqual(['Lamp 2'])
    expect(names('float')).toEqual(['Buoy'])
    expect(names('100×100')).toEqual(['Lamp 10'])
    expect(names('damaged')).toEqual(['broken'])
    expect(names('lamp float')).toEqual([])
    expect(onShelf([entry('Lamp', 1, { note: 'for the Pier' })], 'pier', 'name')).toHaveLength(1)
  })
  it('says where a loop is used', () => {
    const inner = {
      id: 'Buoy',
      name: 'Buoy',
      width: 1,
      height: 1,
      background: null,
      rate: fraction(25),
      length: 2,
      layers: [],
    }
    const follows = { id: 'Buoy', palette: {}, faster: 1, longer: 1, reversed: false, phase: 0 }
    const uses = usesIn([...entries, entry('Sheet', 1, { loops: [inner] }), entry('Night', 1, { variantOf: follows })])
    expect([...uses]).toEqual([['Buoy', ['Sheet', 'Night']]])
  })
  it('leaves what it is given as it is', () => {
    const before = [...entries]
    onShelf(entries, '', 'name')
    expect(entries).toEqual(before)
  })
})
