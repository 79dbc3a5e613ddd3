import { beforeEach, describe, expect, it } from 'vitest'
import { checkMotions } from '@/core/closing'
import { findLayer, type Layer } from '@/core/document'
import { moveNamed, newLayer, takeMove } from '@/core/edit'
import { quay } from '@/core/testing/quay'
import { currentHistory, documentStore, openLoop, undo } from '@/store/document'
import { showFrame } from '@/store/playback'
import { setSession, useSession } from '@/store/session'
import { COMMANDS, runCommand } from '.'
import { takeMotion } from './moves'

const layers = [
  newLayer('ellipse', 'Lamp', { x: 20, y: 30, width: 20, height: 20, stroke: null, fill: '#f6b84b' }, 'lamp'),
  newLayer('ellipse', 'Buoy', { x: 70, y: 50, width: 30, height: 10, stroke: null, fill: '#ef7f5f' }, 'buoy'),
  newLayer('rectangle', 'Board', { x: 90, y: 90, width: 40, height: 40, stroke: null, fill: '#15485a' }, 'board'),
]
const loop = () => documentStore.getState().loop ?? quay
const layer = (id: string) => findLayer(loop(), id) as Layer
const names = () => loop().layers.map(({ name }) => name)
const select = (...ids: string[]) => setSession({ selection: ids, property: null })
const selected = () => useSession.getState().selection
const run = (id: string, amount?: number) => COMMANDS.find((each) => each.id === id)?.run(() => {}, amount)
const steps = () => currentHistory().past.length

beforeEach(() => {
  openLoop({ ...quay, length: 60, layers })
  setSession({ selection: [], property: null, tool: null, preview: null, taken: null, keys: [], stageAlone: false })
})

describe('a motion to take', () => {
  it('is one step for all that are selected, and its numbers are at hand', () => {
    select('lamp', 'buoy')
    runCommand('move-bob')
    expect(steps()).toBe(1)
    expect([layer('lamp'), layer('buoy'), layer('board')].map(({ motions }) => Object.keys(motions))).toEqual([
      ['y'],
      ['y'],
      [],
    ])
    expect(useSession.getState().taken).toEqual({ ids: ['lamp', 'buoy'], wanted: { name: 'bob' } })
    takeMotion(moveNamed('bob'), { name: 'bob', cycles: 3, stagger: 0.25 })
    expect(layer('buoy').motions.y).toMatchObject({ period: { cycles: 3 }, phase: 0.75 })
    undo()
    undo()
    expect(loop().layers).toEqual(layers)
  })
  it('takes the preview of itself away', () => {
    select('lamp')
    setSession({ preview: takeMove(loop(), ['lamp'], { name: 'swing' }) })
    runCommand('move-swing')
    expect(useSession.getState().preview).toBeNull()
  })
  it('changes nothing where nothing is selected, or none can take it', () => {
    runCommand('move-turn')
    select('lamp')
    runCommand('move-chase')
    expect([steps(), useSession.getState().taken]).toEqual([0, null])
  })
})

describe('twins', () => {
  it('lie in front of what was selected, and are selected, each by one step', () => {
    select('lamp')
    runCommand('move-bob')
    for (const [n, id] of ['twin-later', 'twin-faster', 'twin-backwards', 'twin-frozen'].entries()) {
      select('lamp')
      runCommand(id)
      expect(steps()).toBe(n + 2)
      expect(selected()).toHaveLength(1)
      expect(checkMotions(loop()).every(({ home }) => home)).toBe(true)
    }
    expect(names()).toEqual(['Lamp', 'Lamp 5', 'Lamp 4', 'Lamp 3', 'Lamp 2', 'Buoy', 'Board'])
  })
  it('are as much later, or as many times as fast, as is typed', () => {
    select('lamp')
    runCommand('move-bob')
    run('twin-later', 15)
    expect(layer(selected()[0] ?? '').motions.y?.phase).toBeCloseTo(0.75)
    select('lamp')
    run('twin-faster', 3)
    expect(layer(selected()[0] ?? '').motions.y?.period).toEqual({ cycles: 3 })
  })
  it('frozen are as they are at the playhead', () => {
    select('lamp')
    runCommand('move-bob')
    showFrame(30)
    runCommand('twin-frozen')
    const [twin = ''] = selected()
    expect(layer(twin).values.y).toBeCloseTo(25)
    expect(layer(twin).motions).toEqual({})
    showFrame(0)
  })
  it('are not made where there would be more than a loop holds', () => {
    select('lamp')
    runCommand('move-bob')
    const before = loop()
    run('twin-faster', 1e7)
    expect(loop()).toBe(before)
    expect(selected()).toEqual(['lamp'])
  })
})

describe('several layers', () => {
  it('are aligned, evened out and made alike in size, each by one step', () => {
    select('lamp', 'buoy', 'board')
    runCommand('align-left')
    expect(
      ['lamp', 'buoy', 'board'].map((id) => Number(layer(id).values.x) - Number(layer(id).values.width) / 2),
    ).toEqual([10, 10, 10])
    undo()
    runCommand('distribute-x')
    const edges = ['lamp', 'buoy', 'board'].map((id) => {
      const { x, width } = layer(id).values
      return [Number(x) - Number(width) / 2, Number(x) + Number(width) / 2] as const
    })
    expect((edges[1]?.[0] ?? 0) - (edges[0]?.[1] ?? 0)).toBeCloseTo((edges[2]?.[0] ?? 0) - (edges[1]?.[1] ?? 0))
    undo()
    runCommand('same-size')
    expect([layer('lamp'), layer('buoy')].map(({ values }) => [values.width, values.height])).toEqual([
      [40, 40],
      [40, 40],
    ])
    expect(steps()).toBe(1)
  })
  it('stay as they are where there are too few', () => {
    select('lamp', 'buoy')
    runCommand('distribute-y')
    select('lamp')
    runCommand('same-size')
    select()
    runCommand('align-top')
    expect(steps()).toBe(0)
  })
  it('take over a style or motions', () => {
    select('lamp')
    runCommand('copy-style')
    select('buoy', 'board')
    runCommand('paste-style')
    expect([layer('buoy').values.fill, layer('board').values.fill]).toEqual(['#f6b84b', '#f6b84b'])
    select('lamp')
    runCommand('move-bob')
    runCommand('copy-motions')
    select('board')
    runCommand('paste-motions')
    expect(layer('board').motions.y?.keys.map(({ value }) => value)).toEqual([95, 85])
    expect(steps()).toBe(3)
  })
  it('that are alike are selected', () => {
    select('lamp')
    runCommand('select-kind')
    expect(selected()).toEqual(['lamp', 'buoy'])
    select('lamp')
    runCommand('select-colour')
    expect(selected()).toEqual(['lamp'])
  })
})

describe('cycles of the shown motion', () => {
  it('are as many as are typed; for a part of one the loop is as many times longer', () => {
    select('lamp')
    runCommand('move-turn')
    run('cycles', 4)
    expect(layer('lamp').motions.rotation?.period).toEqual({ cycles: 4 })
    run('cycles', 2.5)
    expect(layer('lamp').motions.rotation?.period).toEqual({ frames: 24 })
    run('cycles', 0.25)
    expect([loop().length, layer('lamp').motions.rotation?.period]).toEqual([240, { cycles: 1 }])
    const before = loop()
    run('cycles', 1e-5)
    run('cycles', -1)
    expect(loop()).toBe(before)
  })
})

describe('the stage alone', () => {
  it('is left by the key or by Escape, which keeps what is selected', () => {
    select('lamp')
    runCommand('stage-alone')
    expect(useSession.getState().stageAlone).toBe(true)
    runCommand('select-none')
    expect([useSession.getState().stageAlone, selected()]).toEqual([false, ['lamp']])
    runCommand('select-none')
    expect(selected()).toEqual([])
  })
})
