import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { checkMotions } from '../src/core/closing'
import { parseLoop } from '../src/core/document'
import { evaluate } from '../src/core/evaluate'
import { judgeLoop, judgeSeam } from '../src/core/seam'
import { renderInNode } from '../src/render/node'
import { DEMO_LOOPS } from './build'

const folder = new URL('./loops/', import.meta.url)

describe.each(readdirSync(folder))('%s', (file) => {
  const loop = parseLoop(readFileSync(new URL(file, folder), 'utf8'))
  it('is what its script makes', () => {
    expect(DEMO_LOOPS[file.replace('.cyclon.json', '')]?.()).toEqual(loop)
  })
  it('closes, by its motions and by its pictures', () => {
    const motions = checkMotions(loop)
    expect(motions.length).toBeGreaterThan(0)
    expect(motions.every(({ home, repeatsFrame, hesitates }) => home && !repeatsFrame && !hesitates)).toBe(true)
    const pictures = Array.from({ length: loop.length }, (_, n) =>
      renderInNode(evaluate(loop, n), loop.width / 4, loop.height / 4),
    )
    const seam = judgeSeam(pictures)
    expect(seam.verdict).toBe('closes')
    expect(judgeLoop(loop, motions, seam).verdict).toBe('closes')
  })
})
