import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { FILE_FORMATS } from '../clock'
import { type FileOnPage, pageLines } from '.'

const plain: Omit<FileOnPage, 'format'> = { file: 'lamp.gif', poster: 'lamp.png', width: 480, height: 270, alt: 'Lamp' }

describe('lines for a page', () => {
  it('are there for every format that a page can show', () => {
    const counts = Object.fromEntries(FILE_FORMATS.map((format) => [format, pageLines({ ...plain, format }).length]))
    expect(counts).toMatchObject({ gif: 3, apng: 3, webp: 3, avif: 3, svg: 3, mp4: 2, webm: 2, lottie: 1 })
    expect(counts['png-sequence']).toBe(0)
  })
  it('play videos endlessly, muted and inline, with their poster', () => {
    for (const { text, truth } of pageLines({ ...plain, format: 'mp4', file: 'lamp.mp4' })) {
      for (const word of ['autoplay', 'loop', 'muted', 'playsinline', 'poster="lamp.png"']) expect(text).toContain(word)
      expect(truth).toContain('picture format')
    }
  })
  it('leave no name a way out of its quotes', () => {
    fc.assert(
      fc.property(
        fc.string({ minLength: 1, maxLength: 40, unit: 'binary' }),
        fc.constantFrom(...FILE_FORMATS),
        (name, format) => {
          const usual = pageLines({ ...plain, format })
          for (const [n, { text }] of pageLines({ ...plain, format, file: name, poster: name, alt: name }).entries())
            for (const sign of ['<', '>', '"', '{', '}'])
              expect(text.split(sign).length, sign).toBe(usual[n]?.text.split(sign).length)
        },
      ),
    )
    // Half a letter has no address.
    expect(pageLines({ ...plain, format: 'gif', file: 'a\ud800.gif' })[0]?.text).toContain('src="a_.gif"')
  })
})
