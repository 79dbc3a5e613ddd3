import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newId } from '@/core/id'
import { isLoopView, LOOP_VIEWS, pageOf, TEMPLATE_ID, templateOf } from './template'

const anyView = fc.constantFrom(...LOOP_VIEWS)

describe('the kept page of a loop', () => {
  it('stands for every loop and view, and names that loop alone', async () => {
    await fc.assert(
      fc.asyncProperty(anyView, async (view) => {
        const path = `/loop/${newId()}/${view}`
        expect(isLoopView(path)).toBe(true)
        expect(templateOf(path)).toBe(`/loop/${TEMPLATE_ID}/${view}`)
        const template = new Response(`<a href="/loop/${TEMPLATE_ID}/fit">["${TEMPLATE_ID}"]`, {
          headers: {
            'content-type': 'text/html',
            'content-length': '9',
            'cross-origin-embedder-policy': 'require-corp',
          },
        })
        const page = await pageOf(template, path)
        const id = path.split('/')[2]
        expect(await page.text()).toBe(`<a href="/loop/${id}/fit">["${id}"]`)
        expect(page.headers.get('content-type')).toBe('text/html')
        expect(page.headers.get('cross-origin-embedder-policy')).toBe('require-corp')
        expect(page.headers.get('content-length')).toBeNull()
      }),
      { numRuns: 20 },
    )
  })
  it('stands for no other address', () => {
    for (const path of ['/', '/file', '/loop/a/other', '/loop/a"b/fit', '/loop/a/fit/b', '/api/webp', '/x/loop/a/fit'])
      expect(isLoopView(path)).toBe(false)
  })
})
