import { describe, expect, it } from 'vitest'
import { renderInNode } from '../../render/node'
import { formatLoop, parseLoop, unopenable } from '../document'
import { evaluate } from '../evaluate'
import { quay } from '../testing/quay'
import { readSvg, SvgError } from '.'

const svg = (inner: string, attributes = 'width="40" height="40"') =>
  `<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inner}</svg>`

/** The colour at a point of what an SVG file comes in as. */
function pixel(text: string, x: number, y: number) {
  const { layer, width, height } = readSvg(text, 'harbour')
  const loop = { ...quay, width, height, background: null, layers: [layer] }
  expect(parseLoop(formatLoop(loop))).toEqual(loop)
  const { data } = renderInNode(evaluate(loop, 0))
  return [...data.slice((y * width + x) * 4, (y * width + x) * 4 + 4)]
}

describe('an SVG file', () => {
  it('brings in shapes where they lie, through viewBox, transforms and groups', () => {
    const rect = '<rect x="10" y="10" width="10" height="10" fill="#ff0000"/>'
    expect(pixel(svg(rect), 15, 15)).toEqual([255, 0, 0, 255])
    expect(pixel(svg(rect), 25, 15)).toEqual([0, 0, 0, 0])
    expect(pixel(svg(rect, 'width="80" height="80" viewBox="0 0 40 40"'), 30, 30)).toEqual([255, 0, 0, 255])
    const moved = `<g transform="translate(10 0)"><g transform="rotate(90 15 15)"><path d="M10 10h4v10h-4z" fill="red"/></g></g>`
    expect(pixel(svg(moved), 25, 12)).toEqual([255, 0, 0, 255])
    expect(pixel(svg(moved), 25, 18)).toEqual([0, 0, 0, 0])
    expect(
      pixel(svg('<g transform="skewX(45)"><rect x="0" y="10" width="8" height="8" fill="red"/></g>'), 17, 14),
    ).toEqual([255, 0, 0, 255])
  })
  it('knows the basic shapes', () => {
    expect(pixel(svg('<circle cx="20" cy="20" r="10" fill="lime"/>'), 20, 12)).toEqual([0, 255, 0, 255])
    expect(pixel(svg('<ellipse cx="20" cy="20" rx="18" ry="4" fill="lime"/>'), 6, 20)).toEqual([0, 255, 0, 255])
    expect(pixel(svg('<polygon points="0,0 40,0 0,40" fill="lime"/>'), 5, 5)).toEqual([0, 255, 0, 255])
    expect(pixel(svg('<line x1="0" y1="20" x2="40" y2="20" stroke="lime" stroke-width="6"/>'), 20, 21)).toEqual([
      0, 255, 0, 255,
    ])
    expect(pixel(svg('<rect width="40" height="40" rx="20" fill="lime"/>'), 1, 1)[3]).toBe(0)
    expect(pixel(svg('<polyline points="0,20 40,20" fill="none" stroke="lime" stroke-width="4"/>'), 20, 20)).toEqual([
      0, 255, 0, 255,
    ])
  })
  it('paints by attributes, style and style sheets, inherited as SVG says', () => {
    const sheet = '<style>.sea{fill:#0000ff;opacity:.5} #own{fill:lime}</style>'
    const rect = (more: string) => `<rect width="40" height="40" ${more}/>`
    expect(pixel(svg(`<g fill="red">${rect('')}</g>`), 5, 5)).toEqual([255, 0, 0, 255])
    expect(pixel(svg(`<g fill="red">${rect('style="fill:lime"')}</g>`), 5, 5)).toEqual([0, 255, 0, 255])
    expect(pixel(svg(sheet + rect('class="sea"')), 5, 5)).toEqual([0, 0, 255, 128])
    expect(pixel(svg(sheet + rect('class="sea" id="own" style="opacity:1"')), 5, 5)).toEqual([0, 255, 0, 255])
    expect(
      pixel(svg(`<g color="red"><rect width="40" height="40" fill="currentColor" color="red"/></g>`), 5, 5),
    ).toEqual([255, 0, 0, 255])
    expect(pixel(svg(rect('fill="red" fill-opacity="0.5"')), 5, 5)[3]).toBe(128)
    expect(readSvg(svg(rect('') + rect('display="none"')), 'x').layer.layers).toHaveLength(1)
  })
  it('brings in gradients with all their colours', () => {
    const gradient = `<linearGradient id="g"><stop offset="0" stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient>`
    const text = svg(`<defs>${gradient}</defs><rect width="40" height="40" fill="url(#g)"/>`)
    expect(pixel(text, 1, 20)[0]).toBeGreaterThan(230)
    expect(pixel(text, 38, 20)[2]).toBeGreaterThan(230)
    const three = text.replace('<stop offset="1"', '<stop offset="0.5" stop-color="lime"/><stop offset="1"')
    expect(readSvg(three, 'x').left).toEqual([])
    expect(pixel(three, 20, 20)[1]).toBeGreaterThan(240)
    const late = text.replace('offset="0"', 'offset="50%"')
    expect(pixel(late, 19, 20)).toEqual([255, 0, 0, 255])
    expect(pixel(late, 39, 20)[2]).toBeGreaterThan(230)
    const folded = three.replace('offset="1"', 'offset="0.2"')
    expect(pixel(folded, 21, 20)[2], 'a stop never lies before the one that it follows').toBeGreaterThan(240)
    const many = text.replace(
      '<stop offset="1"',
      `${'<stop offset="0.5" stop-color="lime"/>'.repeat(20)}<stop offset="1"`,
    )
    expect(readSvg(many, 'x').left).toEqual(['colours of gradients beyond 16'])
  })
  it('names what it left out, each once', () => {
    const text = svg(
      '<rect width="4" height="4" mask="url(#m)"/><image href="a.png"/><image href="b.png"/><script>alert(1)</script><mask id="m"/>',
    )
    expect(readSvg(text, 'x').left).toEqual(['masks', 'embedded pictures', 'scripts'])
  })
  it('follows <use>, but not for ever', () => {
    expect(
      pixel(svg('<defs><rect id="r" width="10" height="10" fill="red"/></defs><use href="#r" x="20" y="20"/>'), 25, 25),
    ).toEqual([255, 0, 0, 255])
    expect(() => readSvg(svg('<g id="a"><use href="#a"/></g>'), 'x')).toThrow(SvgError)
  })
  it('sets its text in a face that is shipped', () => {
    const { layer } = readSvg(svg('<text x="4" y="20" font-size="12">Pier <tspan>office</tspan></text>'), 'x')
    expect(layer.layers?.[0]).toMatchObject({ kind: 'text', values: { text: 'Pier office', size: 12 } })
  })
  it.each([
    ['', 'not an SVG file'],
    ['GIF89a', 'not an SVG file'],
    ['<html><body/></html>', 'not an SVG file'],
    ['<svg', 'not an SVG file'],
    [svg(''), 'holds nothing'],
    [svg('<image href="x.png"/>'), 'only embedded pictures'],
    [`<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;">]>${svg('<text>&b;</text>')}`, ''],
    [`<svg>${'<g>'.repeat(5000)}${'</g>'.repeat(5000)}</svg>`, 'not an SVG file'],
    [svg(`<path d="${'M0 0L1 1'.repeat(90_000)}"/>`), 'holds nothing'],
  ])('%.20s… is refused in words, or harmless', (text, message) => {
    try {
      const { layer } = readSvg(text, 'harbour.svg')
      expect(message).toBe('')
      expect(JSON.stringify(layer).length).toBeLessThan(20_000)
    } catch (error) {
      expect(error).toBeInstanceOf(SvgError)
      expect((error as Error).message).toContain(message)
    }
  })
})

describe('SVG files from elsewhere', () => {
  const wrapped = (inner: string) => `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">${inner}</svg>`
  /** How many elements are visited, which is what takes time. */
  const timed = (text: string) => {
    const start = performance.now()
    try {
      return { content: readSvg(text, 'quay'), ms: performance.now() - start }
    } catch (error) {
      return { error: error as Error, ms: performance.now() - start }
    }
  }

  it('that nest their groups are read in a time that grows as they do', () => {
    const nested = (depth: number) =>
      wrapped(`${'<g>'.repeat(depth)}<rect width="9" height="9"/>${'</g>'.repeat(depth)}`)
    const least = (depth: number) => Math.min(...Array.from({ length: 5 }, () => timed(nested(depth)).ms))
    // Twice for each level would be a thousand times as long.
    expect(least(20)).toBeLessThan(100 * least(10))
    expect(timed(nested(60)).error?.message ?? '').toContain('groups that stand too deep')
  })
  it('that use themselves over and over are given up at a budget, and say so', () => {
    const fan = Array.from({ length: 12 }, (_, i) => `<g id="g${i + 1}">${`<use href="#g${i}"/>`.repeat(8)}</g>`).join(
      '',
    )
    const { content, error } = timed(wrapped(`<g id="g0"><rect width="9" height="9"/></g>${fan}<use href="#g12"/>`))
    expect([...(content?.left ?? []), error?.message].join()).toMatch(/beyond the first/)
  })
  it('that are made to make patterns backtrack are read at once', () => {
    const long = 'a'.repeat(300_000)
    for (const inner of [
      `<rect width="9" height="9" transform="${long}"/>`,
      `<style>${long}</style><rect width="9" height="9"/>`,
      `<style>${'/*'.repeat(100_000)}</style><rect width="9" height="9"/>`,
      `<path d="M0 0${'L1 1'.repeat(60_000)}"/><rect width="9" height="9"/>`,
    ])
      expect(timed(wrapped(inner)).content?.layer.layers).toHaveLength(1)
  })
  it('have their character references decoded', () => {
    const { layer } = readSvg(wrapped('<text y="20">Fish &amp; ferry &#x2014; &#65;</text>'), 'sign')
    expect(layer.layers?.[0]?.values.text).toBe('Fish & ferry — A')
    const { layer: plain } = readSvg(wrapped('<text y="20"><![CDATA[a &amp; b]]></text>'), 'sign')
    expect(plain.layers?.[0]?.values.text).toBe('a &amp; b')
  })
  it('say that a gradient begins and ends elsewhere, and turn with its transform', () => {
    const { layer, left } = readSvg(
      wrapped(
        '<linearGradient id="g" gradientUnits="userSpaceOnUse" gradientTransform="rotate(90)" x1="0" x2="50"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><rect width="9" height="9" fill="url(#g)"/>',
      ),
      'sky',
    )
    expect(left).toContain('where gradients begin and end')
    expect(layer.layers?.[0]?.values.fillAngle).toBe(90)
  })
  it('never make a layer that a document could not hold', () => {
    const huge = wrapped(
      '<g transform="scale(1e200)"><rect width="1e300" height="9" stroke="red" stroke-width="1e300" stroke-dasharray="1e300"/></g><rect width="9" height="9"/>',
    )
    const { layer } = readSvg(huge, 'far')
    expect(unopenable({ ...quay, layers: [layer] })).toBeNull()
  })
})
