import { describe, expect, it, vi } from 'vitest'
import { formatLoop, LoopFileError, parseLoop } from '@/core/document'
import { quay as loop } from '@/core/testing/quay'
import { fileName, problemText, readLoopFile } from './files'

let ended = 0
vi.mock('@/workers/page/clients', () => ({
  importClient: () => ({
    ask: (work: (service: object) => unknown) =>
      work({
        loop: async (bytes: Uint8Array) => {
          try {
            return { done: { loop: parseLoop(new TextDecoder().decode(bytes)), files: new Map() } }
          } catch (error) {
            const { message, advice } = error as LoopFileError
            return { problem: message, advice }
          }
        },
      }),
    end: () => ended++,
  }),
}))

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

  it('are read by a worker, which ends afterwards and whose refusals keep their advice', async () => {
    const read = readLoopFile(new File([formatLoop(loop)], 'quay.cyclon.json'))
    expect(await read).toEqual(loop)
    await expect(readLoopFile(new File(['{'], 'torn.cyclon.json'))).rejects.toMatchObject({
      name: 'LoopFileError',
      advice: expect.stringContaining('another copy'),
    })
    expect(ended).toBe(2)
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
