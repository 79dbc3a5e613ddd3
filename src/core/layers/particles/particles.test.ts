import { describe, expect, it } from 'vitest'
import { checkMotions } from '../../closing'
import { formatLoop, type Loop, parseLoop } from '../../document'
import { newLayer } from '../../edit'
import { quay } from '../../testing/quay'
import { particles } from '.'
import { PRESETS } from './presets'

const preset = (label: string) => PRESETS.find((each) => each.label === label)?.values ?? {}

describe('starting points of particles', () => {
  it.each(PRESETS.map(({ label }) => label))('%s is sound, moves, and comes home', (label) => {
    const loop: Loop = { ...quay, layers: [newLayer('particles', label, preset(label))] }
    expect(parseLoop(formatLoop(loop))).toEqual(loop)
    expect(checkMotions(loop).map(({ home }) => home)).toEqual([true])
  })
  it('leave nothing of the one before: each after any other is what it is alone', () => {
    const defaults = newLayer('particles', 'bare').values
    for (const one of PRESETS)
      for (const other of PRESETS)
        expect({ ...defaults, ...one.values, ...other.values }).toEqual({ ...defaults, ...other.values })
  })
  it('say how fast they go, in px and px a second', () => {
    const values = { ...newLayer('particles', 'rain').values, driftX: 2, driftY: 0, width: 480 }
    expect(particles.note?.text(values, 4)).toContain('960 px in a cycle, 240 px/s')
    expect(particles.note?.text(values, null)).not.toContain('px/s')
  })
})
