import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { checkModel, modelsExitCode, modelTable } from './model'

let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'cyclon-model-'))
})
afterAll(() => rm(folder, { recursive: true }))

/** A six-bar capstan as OBJ, moved aside: bars of boxes about y, each an object of its own. */
function capstan(aside: number): string {
  const lines: string[] = []
  let vertices = 0
  for (let bar = 0; bar < 6; bar++) {
    const angle = (bar * Math.PI) / 3
    lines.push(`o Bar ${bar + 1}`)
    for (const x of [0.5, 2])
      for (const y of [0, 0.3])
        for (const z of [-0.15, 0.15])
          lines.push(
            `v ${x * Math.cos(angle) - z * Math.sin(angle) + aside} ${y} ${x * Math.sin(angle) + z * Math.cos(angle)}`,
          )
    const quads = [
      [1, 3, 4, 2],
      [5, 6, 8, 7],
      [1, 2, 6, 5],
      [3, 7, 8, 4],
      [1, 5, 7, 3],
      [2, 4, 8, 6],
    ]
    for (const quad of quads)
      lines.push(
        `f ${[...quad]
          .reverse()
          .map((i) => i + vertices)
          .join(' ')}`,
      )
    vertices += 8
  }
  return `${lines.join('\n')}\n`
}

describe('cyclon check --model', () => {
  it('says parts, triangles, centre, how far that is off, and the fold about each axis', async () => {
    const path = join(folder, 'capstan.obj')
    await writeFile(path, capstan(3))
    const entry = await checkModel(path)
    if ('error' in entry) throw new Error(entry.error)
    const { model } = entry
    expect([model.parts, model.triangles]).toEqual([6, 72])
    expect(model.fold).toMatchObject({ y: 6 })
    expect(model.centre[0]).toBeCloseTo(3, 2)
    expect(model.massCentre?.[0]).toBeCloseTo(3, 2)
    expect(model.offCentre.y).toBeGreaterThan(0.5)
    expect(model.offCentre.x).toBeLessThan(0.1)
    expect(model.faults).toEqual([])
    expect(modelsExitCode([entry])).toBe(0)
    expect(modelTable([entry])).toMatch(/6 parts, 72 triangles .*y: fold 6, \d+\.\d % off/)
  })
  it('says what cannot be read, and exits with 2', async () => {
    const path = join(folder, 'broken.stl')
    await writeFile(path, 'solid nothing')
    const entries = [await checkModel(path), await checkModel(join(folder, 'missing.glb'))]
    expect(entries.every((entry) => 'error' in entry)).toBe(true)
    expect(modelsExitCode(entries)).toBe(2)
  })
})
