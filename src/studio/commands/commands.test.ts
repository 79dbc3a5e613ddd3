import { beforeEach, describe, expect, it } from 'vitest'
import { findLayer, type Layer } from '@/core/document'
import { newLayer } from '@/core/edit'
import { quay } from '@/core/testing/quay'
import { currentHistory, documentStore, openLoop, undo } from '@/store/document'
import { useExport } from '@/store/export'
import { useQueue } from '@/store/queue'
import { setSession, useSession } from '@/store/session'
import { addLayer, COMMANDS, keysText, runCommand, shortcutOf, type View } from '.'

const layers = ['a', 'b', 'c'].map((id) => newLayer('ellipse', id.toUpperCase(), { x: 5, y: 5 }, id))
const pier = { ...quay, layers }
const loop = () => documentStore.getState().loop ?? quay
const order = () => loop().layers.map(({ id }) => id)
const layer = (id: string) => findLayer(loop(), id) as Layer
const selection = () => useSession.getState().selection
const select = (...ids: string[]) => setSession({ selection: ids, property: null })

describe('commands', () => {
  beforeEach(() => {
    openLoop(pier)
    setSession({ selection: [], property: null, tool: null, preview: null, zoom: null, playing: false })
  })

  it('have names and keys of their own', () => {
    const ids = COMMANDS.map(({ id }) => id)
    expect(new Set(ids).size).toBe(ids.length)
    const labels = COMMANDS.map(({ label, section }) => `${section} ${label}`)
    expect(new Set(labels).size).toBe(labels.length)
    const keys = COMMANDS.flatMap((command) => (command.keys ?? '').split(',').map((key) => key.trim())).filter(Boolean)
    expect(new Set(keys).size).toBe(keys.length)
  })
  it('show their first key as it is printed', () => {
    expect(keysText('mod+shift+z, mod+y')).toBe('Ctrl Shift Z')
    expect([shortcutOf('shortcuts'), shortcutOf('seam'), shortcutOf('nudge-left')]).toEqual(['?', 'Home', 'Alt ←'])
    expect(shortcutOf('nothing')).toBeUndefined()
  })
  it('have the file written in its view, and show what else becomes of files', () => {
    const gone: View[] = []
    const run = (id: string) => COMMANDS.find((each) => each.id === id)?.run((view) => gone.push(view))
    run('write-file')
    expect(useExport.getState()).toMatchObject({ tab: 'file', writeAsked: true })
    run('fit-to-weight')
    expect(useExport.getState().tab).toBe('weight')
    run('queue')
    expect(useExport.getState().tab).toBe('queue')
    expect(gone).toEqual(['export', 'export', 'export'])
  })
  it('pause the queue while it runs', () => {
    useQueue.setState({ state: 'running' })
    runCommand('pause-queue')
    expect(useQueue.getState().state).toBe('paused')
    useQueue.setState({ state: 'idle' })
  })
  it('change nothing where no layer is selected', () => {
    for (const id of ['delete', 'duplicate', 'group', 'ungroup', 'forward', 'hide', 'centre-pivot', 'nudge-left'])
      runCommand(id)
    expect(loop()).toBe(pier)
    expect(currentHistory().past).toEqual([])
  })

  it('bring layers forward and send them backward, as far as there are others', () => {
    select('a')
    runCommand('forward')
    expect(order()).toEqual(['b', 'a', 'c'])
    runCommand('forward')
    runCommand('forward')
    expect(order()).toEqual(['b', 'c', 'a'])
    runCommand('backward')
    expect(order()).toEqual(['b', 'a', 'c'])
  })
  it('delete, and undo brings back', () => {
    select('a', 'c')
    runCommand('delete')
    expect([order(), selection()]).toEqual([['b'], []])
    undo()
    expect(order()).toEqual(['a', 'b', 'c'])
  })
  it('duplicate, and select the copies', () => {
    select('b')
    runCommand('duplicate')
    const [copy] = selection()
    expect(order()).toEqual(['a', 'b', copy, 'c'])
    expect(layer(copy ?? '').name).toBe('B 2')
  })
  it('group, and take apart again what does not move by itself', () => {
    select('a', 'b')
    runCommand('group')
    const [group] = selection()
    expect(order()).toEqual([group, 'c'])
    runCommand('ungroup')
    expect([order(), selection()]).toEqual([
      ['a', 'b', 'c'],
      ['a', 'b'],
    ])
    runCommand('group')
    const [again = ''] = selection()
    const fading = loop().layers.map((each) =>
      each.id === again ? { ...each, values: { ...each.values, opacity: 0.5 } } : each,
    )
    openLoop({ ...loop(), layers: fading })
    runCommand('ungroup')
    expect([order(), selection()]).toEqual([[again, 'c'], [again]])
  })
  it('hide and lock, and show and unlock again', () => {
    select('a')
    runCommand('hide')
    runCommand('lock')
    expect(layer('a')).toMatchObject({ hidden: true, locked: true })
    runCommand('hide')
    runCommand('lock')
    expect(layer('a')).toMatchObject({ hidden: false, locked: false })
  })
  it('move by a pixel, each a step of its own', () => {
    select('a', 'b')
    for (const id of ['nudge-right', 'nudge-right', 'nudge-up']) runCommand(id)
    expect([layer('a').values.x, layer('b').values.y, layer('c').values.x]).toEqual([7, 4, 5])
    undo()
    expect(layer('a').values.y).toBe(5)
  })
  it('add a layer in the middle, under a name of its own', () => {
    addLayer('ellipse')
    addLayer('ellipse')
    expect(
      loop()
        .layers.slice(-2)
        .map(({ name, values }) => [name, values.x]),
    ).toEqual([
      ['Ellipse', 5],
      ['Ellipse 2', 5],
    ])
  })
  it('leave a tool or a preview first, then the selection', () => {
    select('a')
    setSession({ tool: 'ellipse' })
    runCommand('select-none')
    expect([useSession.getState().tool, selection()]).toEqual([null, ['a']])
    runCommand('select-none')
    expect(selection()).toEqual([])
    runCommand('select-all')
    expect(selection()).toEqual(['a', 'b', 'c'])
  })
  it('draw the frame larger and smaller, within bounds, and as a whole again', () => {
    runCommand('closer')
    expect(useSession.getState().zoom).toEqual({ factor: 1.25, x: 5, y: 5 })
    for (let i = 0; i < 60; i++) runCommand('closer')
    expect(useSession.getState().zoom?.factor).toBe(64)
    for (let i = 0; i < 60; i++) runCommand('farther')
    expect(useSession.getState().zoom?.factor).toBe(1 / 8)
    runCommand('whole-frame')
    expect(useSession.getState().zoom).toBeNull()
  })
})
