import { describe, expect, it } from 'vitest'
import { Average } from './average'

const picture = (...data: number[]) => ({ data: Uint8ClampedArray.from(data) })
const mean = (...pictures: ReturnType<typeof picture>[]) => {
  const average = new Average(1, 1)
  for (const each of pictures) average.add(each)
  return [...average.picture().data]
}

describe('the mean of pictures', () => {
  it('is theirs where they are opaque', () => {
    expect(mean(picture(0, 0, 0, 255), picture(255, 100, 50, 255))).toEqual([128, 50, 25, 255])
    expect(mean(picture(9, 8, 7, 255))).toEqual([9, 8, 7, 255])
  })
  it('counts colours by how opaque they are: what is clear lends none', () => {
    expect(mean(picture(255, 0, 0, 255), picture(0, 255, 0, 0))).toEqual([255, 0, 0, 128])
    expect(mean(picture(0, 0, 0, 0), picture(0, 0, 0, 0))).toEqual([0, 0, 0, 0])
  })
})
