import { describe, expect, it } from 'vitest'
import { turnPage } from './turn-page'

const page = turnPage({
  name: 'Buoy </title><script>alert("wet")</script>',
  width: 320,
  height: 240,
  rate: 12.5,
  frames: ['data:image/png;base64,AAAA', 'data:image/png;base64,</script>BBBB'],
})

describe('a page to turn an object by hand', () => {
  it('needs nothing beside it: no address leads out of it', () => {
    expect(page.match(/(src|href)\s*=\s*["'][^"']*["']/g)).toBeNull()
    expect(page).not.toMatch(/https?:/)
  })
  it('shows names and frames as what they are, whatever is in them', () => {
    expect(page).not.toContain('<script>alert')
    expect(page).toContain('Buoy &#60;/title&#62;')
    const held = /<script type="application\/json" id="frames">(.*?)<\/script>/s.exec(page)?.[1] ?? ''
    expect(JSON.parse(held)).toEqual(['data:image/png;base64,AAAA', 'data:image/png;base64,</script>BBBB'])
  })
  it('is told to those who do not see it, and stands still where less motion is asked for', () => {
    expect(page).toContain('role="slider"')
    expect(page).toContain('aria-valuemax="1"')
    expect(page).toContain('prefers-reduced-motion: reduce')
  })
})
