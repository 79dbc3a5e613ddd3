import { beforeEach, describe, expect, it, vi } from 'vitest'
import { formatLoop, type Loop } from '@/core/document'
import { begunLoop, excerptOf, newLayer } from '@/core/edit'
import { currentLoop, openLoop, undo } from '@/store/document'
import { setSession, useSession } from '@/store/session'
import { copy, cut, drawingOf, layersIn, paste, pasted } from './clipboard'

const brief = { name: 'Quay', kind: 'loader', width: 480, height: 480, background: null } as const
const begun = (): Loop => begunLoop({ ...brief, rate: { num: 25, den: 1 }, length: 50 }, 'orbits')
/** The clipboard of the system, as far as it is open. */
const system = { text: '', open: true }
const clipboard = {
  writeText: async (text: string) => {
    if (!system.open) throw new Error('It is closed.')
    system.text = text
  },
  readText: async () => {
    if (!system.open) throw new Error('It is closed.')
    return system.text
  },
}
vi.stubGlobal('navigator', { clipboard })
const names = () => currentLoop()?.layers.map(({ name }) => name)

beforeEach(() => {
  system.text = ''
  system.open = true
  openLoop(begun())
  setSession({ selection: [], keys: [], property: null })
})
const select = (...wanted: string[]) =>
  setSession({
    selection: (currentLoop()?.layers ?? []).flatMap(({ id, name }) => (wanted.includes(name) ? [id] : [])),
  })

describe('a drawing of layers', () => {
  it('holds the layers themselves, whatever they are called', async () => {
    const odd = { ...newLayer('ellipse', '</metadata> & "Lamp" <svg>'), id: 'odd' }
    const excerpt = excerptOf({ ...begun(), layers: [odd, ...begun().layers] }, [
      'odd',
      ...begun().layers.map(({ id }) => id),
    ])
    const text = await drawingOf(excerpt)
    expect(text.startsWith('<svg')).toBe(true)
    expect(text.trimEnd().endsWith('</svg>')).toBe(true)
    expect(layersIn(text)).toEqual(excerpt)
  })
  it('is none in another text, and damaged ones are refused', async () => {
    expect(layersIn('')).toBeNull()
    expect(layersIn('<svg></svg>')).toBeNull()
    const text = await drawingOf(
      excerptOf(
        begun(),
        begun().layers.map(({ id }) => id),
      ),
    )
    expect(() => layersIn(text.replace('"version"', '"ersion"'))).toThrow()
  })
})

describe('layers that are copied', () => {
  it('lie in the clipboard of the system, and are pasted from there, selected', async () => {
    select('Lamp')
    await copy()
    expect(system.text).toContain('<svg')
    await paste()
    expect(names()).toEqual(['Orbit', 'Orbit', 'Orbit', 'Lamp', 'Lamp 2'])
    expect(useSession.getState().selection).toEqual([currentLoop()?.layers.at(-1)?.id])
    undo()
    expect(names()).toHaveLength(4)
  })
  it('are pasted in this page where the system keeps its clipboard closed', async () => {
    select('Lamp')
    system.open = false
    await copy()
    await pasted([], 'what another program copied before')
    expect(names()).toContain('Lamp 2')
  })
  it('are taken away when they are cut, and come back', async () => {
    select('Lamp')
    await cut()
    expect(names()).not.toContain('Lamp')
    openLoop({ ...begun(), layers: [] })
    await pasted([], system.text)
    expect(names()).toEqual(['Lamp'])
  })
  it('change nothing where there are none, or they are damaged', async () => {
    const before = formatLoop(currentLoop() as Loop)
    await copy()
    await pasted([], 'some words')
    await pasted([], '<svg><metadata id="cyclon-layers">{ no JSON</metadata></svg>')
    expect(formatLoop(currentLoop() as Loop)).toBe(before)
  })
})
