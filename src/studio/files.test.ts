import { describe, expect, it } from 'vitest'
import { formatLoop, LoopFileError } from '@/core/loop'
import { quay as loop } from '@/core/testing/quay'
import { fileName, problemText, readLoopFile } from './files'

describe('files', () => {
  it.each([
    ['Beacon loader', 'beacon-loader.gif'],
    ['  Pier / Quay: 50 %  ', 'pier-quay-50.gif'],
    ['../../etc/passwd', 'etc-passwd.gif'],
    ['Möwen über Øresund', 'möwen-über-øresund.gif'],
    ['灯台', '灯台.gif'],
    ['…', 'loop.gif'],
    ['', 'loop.gif'],
  ])('of “%s” are called %s', (name, expected) => expect(fileName({ name }, '.gif')).toBe(expected))

  it('are read as they were written', async () => {
    const file = new File([formatLoop(loop)], 'quay.cyclon.json', { type: 'application/json' })
    expect(await readLoopFile(file)).toEqual(loop)
  })
  it('are refused unread when they are huge', async () => {
    const huge = { name: 'huge.cyclon.json', size: 9e9, text: () => Promise.reject(new Error('it was read')) }
    await expect(readLoopFile(huge as unknown as File)).rejects.toThrow('huge.cyclon.json is larger than any loop file')
  })
  it('that are wrong are told with what can be done', () => {
    const error = new LoopFileError('The file is empty.', 'Choose another copy of the file.')
    expect(problemText(error)).toEqual({ title: 'The file is empty.', description: 'Choose another copy of the file.' })
    expect(problemText('something')).toEqual({ title: 'something' })
  })
})
