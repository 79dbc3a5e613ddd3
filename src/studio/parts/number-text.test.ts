import { describe, expect, it } from 'vitest'
import { readNumber, showNumber } from './number-text'

const context = { rate: { num: 24, den: 1 }, length: 48 }

describe('number fields', () => {
  it.each<[string, Parameters<typeof readNumber>[1], number]>([
    ['360/48', '°', 7.5],
    ['1.5s', 'frames', 36],
    ['12f', 'frames', 12],
    ['500 ms', 'frames', 12],
    ['12f', 'seconds', 0.5],
    ['2 cycles', 'cycles', 2],
    ['1/4 turn', '°', 90],
    ['90°', '°', 90],
    ['50', 'share', 0.5],
    ['50 %', 'share', 0.5],
    ['−4 + 2 * 3', 'px', 2],
    ['(10 + 2) / 3', 'px', 4],
    ['1,5', 'px', 1.5],
    ['2×', '×', 2],
  ])('read %s in %s as %d', (text, unit, value) => expect(readNumber(text, unit, context)).toBeCloseTo(value, 12))

  it.each([
    ['', 'type a number'],
    ['swift', 'not a number'],
    ['2 swift', 'not a unit'],
    ['4 apples', 'apples'],
    ['1/0', 'no value'],
    ['alert(1)', 'only numbers'],
    ['[].constructor', 'not a number or a sum'],
    ['2 +', 'not a number or a sum'],
  ])('refuse “%s”', (text, message) => expect(() => readNumber(text, 'px', context)).toThrow(message))

  it('show shares as per cent and no negative nought', () => {
    expect(showNumber(0.355, 'share')).toBe('35.5')
    expect(showNumber(-0, 'px')).toBe('0')
  })
})
