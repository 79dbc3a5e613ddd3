import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { zipProject } from '@/codecs'
import { drawingsOf, type Layer, type Loop } from '@/core/document'
import { newLayer } from '@/core/edit'
import type { Picture } from '@/core/image'
import { layerKind } from '@/core/layers'
import type { Motion } from '@/core/motion'
import { seenLoop } from '@/core/testing/seen'
import { encodeCase } from '../../bench/corpus/encode'
import { NodeRenderer, picturesInNode } from '../render/node'
import { checkPath } from './check'
import type { CheckEntry } from './check-entry'
import { CommandError } from './command-error'
import { renderLoop } from './render'
import { TEST_CLIP, TEST_PICTURE } from './test-media'

type Entry = Extract<CheckEntry, { format: string }>
const GRAVITY = ['still', 'closes', 'too-few-frames', 'hesitates', 'repeats-a-frame', 'jumps', 'blank-frame']
const gravity = (verdict: string): number => Math.max(1, GRAVITY.indexOf(verdict))
/** The plainest of references: a step is the mean difference of all channels, on white. */
const plainStep = (a: Picture, b: Picture): number => {
  let sum = 0
  for (let i = 0; i < a.data.length; i += 4) {
    const p = (a.data[i + 3] as number) / 255
    const q = (b.data[i + 3] as number) / 255
    for (let c = 0; c < 3; c++)
      sum += ((a.data[i + c] as number) * p + 255 * (1 - p) - (b.data[i + c] as number) * q - 255 * (1 - q)) ** 2
  }
  return Math.sqrt(sum / a.data.length)
}

let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'cyclon-truth-'))
})
afterAll(() => rm(folder, { recursive: true }))

async function entryOf(path: string): Promise<Entry> {
  const [checked] = await checkPath(path, 30)
  const entry = checked?.entry
  if (!entry || 'error' in entry) throw new Error(entry?.error ?? 'nothing was checked')
  return entry
}

/** The frames of a document as they are drawn at its full size. */
async function framesOf(loop: Loop): Promise<Picture[]> {
  const renderer = new NodeRenderer(loop.width, loop.height)
  const pictures = await picturesInNode(loop)
  return Array.from({ length: loop.length }, (_, n) => renderer.picture(loop, n, pictures))
}

async function checkedDocument(loop: Loop): Promise<Entry> {
  const path = join(folder, 'loop.cyclon.zip')
  await writeFile(path, await zipProject(loop))
  return entryOf(path)
}

/** Its frames in a file without loss, which `render` would refuse to leave where it jumps. */
async function checkedFile(loop: Loop): Promise<Entry> {
  const pictures = await framesOf(loop)
  const path = join(folder, 'loop.apng')
  const about = { scene: '', fault: '', plays: 0, expected: null }
  await writeFile(path, await encodeCase({ ...about, pictures, delaysMs: pictures.map(() => 40) }, 'apng'))
  return entryOf(path)
}

/** Random documents may hold rows of rows of rows: those that take long to draw show nothing that others do not. */
const MAX_SHAPES = 10_000

const documents = seenLoop({ clip: TEST_CLIP, picture: TEST_PICTURE }).filter((loop) => drawingsOf(loop) <= MAX_SHAPES)

/** Whether a layer leaves more than its edges half clear, at some time. */
const isSoft = ({ kind, values, motions }: Layer): boolean =>
  layerKind(kind).effect !== undefined ||
  kind === 'brush' ||
  [values.opacity, values.blur].some((value, k) => value !== undefined && value !== (k === 0 ? 1 : 0)) ||
  [values.glowColour, values.shadowColour].some((colour) => typeof colour === 'string') ||
  ['opacity', 'blur', 'glowBlur', 'shadowBlur'].some((name) => name in motions)

/** Whether layers leave broad areas half clear: by effects, painted masks, opacity, blur, glow or shadow. */
const areSoft = (layers: readonly Layer[]): boolean =>
  layers.some((layer) => isSoft(layer) || areSoft(layer.layers ?? []))

/**
 * Documents whose file can hold what they show: colours that are nearly clear are rounded by whoever decodes a file, so that steps of broad soft areas
 * are others there than they were drawn. Those are put on a ground.
 */
const exact = documents.map((loop) =>
  loop.background === null && areSoft([...loop.layers, ...loop.loops.flatMap(({ layers }) => layers)])
    ? { ...loop, background: '#123a4c' }
    : loop,
)

/** Documents in front of which a panel fades in once a loop and is gone at its seam: most of them change more there than anywhere else. */
const leaping = documents
  .filter(({ length }) => length >= 4)
  .map((loop): Loop => {
    const panel = newLayer('rectangle', 'Panel', {
      x: loop.width / 2,
      y: loop.height / 2,
      width: 60,
      height: 60,
      fill: '#f7e9d0',
    })
    const keys = [
      { at: 0, value: 0, ease: 'linear' },
      { at: 1 - 1 / loop.length, value: 1, ease: 'linear' },
    ]
    const opacity: Motion = { keys, after: 'repeat', period: { cycles: 1 }, phase: 0 }
    return { ...loop, layers: [...loop.layers, { ...panel, motions: { opacity } }] }
  })

/** Whether something in a loop steps because it is made so: an event, a tremble, a value that is held until its next key. */
const meansCuts = ({ layers, loops }: Loop): boolean => {
  const steps = (layer: Layer): boolean =>
    Object.keys(layer.events ?? {}).length > 0 ||
    Object.keys(layer.trembles ?? {}).length > 0 ||
    Object.values(layer.motions).some(({ keys }) => keys.some(({ ease }) => /hold|step/.test(ease))) ||
    (layer.layers ?? []).some(steps)
  return [...layers, ...loops.flatMap((inner) => inner.layers)].some(steps)
}

/** Whether `cyclon render` leaves a file of a loop, which it does where its proof holds. */
async function isWritten(loop: Loop, ending: string): Promise<boolean> {
  const out = join(folder, `rendered.${ending}`)
  const options = { out, scale: 1, repeats: 1, frames: null, background: 'kept' as const, quality: null, cores: 1 }
  return renderLoop(loop, 'rendered', options).then(
    ({ proof }) => proof === null || proof.holds,
    (error) => {
      if (error instanceof CommandError && error.message.includes('was not written')) return false
      throw error
    },
  )
}

/** Files that say less than was drawn: of colours, of alpha, or of what their format cannot hold. */
const LOSSY = ['gif', 'webp', 'svg'] as const

describe('what check says of a document and whether a file of it is proven', () => {
  it('are one: what is sound is written without loss, and what is not is written in no format', async () => {
    const counts = { sound: 0, condemned: 0, lossy: 0 }
    await fc.assert(
      fc.asyncProperty(exact, fc.constantFrom(...LOSSY), async (loop, lossy) => {
        const { verdict } = (await checkedDocument(loop)).seam
        const sound = verdict === 'closes' || verdict === 'still'
        counts[sound ? 'sound' : 'condemned']++
        expect(await isWritten(loop, 'apng')).toBe(sound)
        // Vectors are asked by their motions alone, since only a browser can read them back.
        if (sound || lossy === 'svg') return
        counts.lossy++
        expect(await isWritten(loop, lossy)).toBe(false)
      }),
      { numRuns: 40, endOnFailure: true },
    )
    expect(counts.sound).toBeGreaterThanOrEqual(8)
    expect(counts.condemned).toBeGreaterThanOrEqual(8)
    expect(counts.lossy).toBeGreaterThanOrEqual(4)
  })
})

describe('Compose and the file that is written without loss', () => {
  it('agree: Compose is milder only where a cut is meant, and stricter only with a motion and its gap named', async () => {
    await fc.assert(
      fc.asyncProperty(exact, async (loop) => {
        const compose = await checkedDocument(loop)
        const file = await checkedFile(loop)
        // Milder only where the document knows what the pictures cannot: a cut that is meant, or motions that come home in few frames.
        if (gravity(compose.seam.verdict) < gravity(file.seam.verdict)) {
          expect(['jumps', 'hesitates', 'repeats-a-frame', 'too-few-frames']).toContain(file.seam.verdict)
          expect(file.seam.verdict === 'too-few-frames' || meansCuts(loop)).toBe(true)
        }
        expect(compose.grounds).toEqual(file.grounds)
        if (gravity(compose.seam.verdict) > gravity(file.seam.verdict)) {
          const away = compose.motions?.filter(({ home }) => !home) ?? []
          expect(
            away.length > 0 ||
              /slows down|already shows|at its own seam|before its frame/.test(compose.findings[0]?.message ?? ''),
          ).toBe(true)
          if (gravity(file.seam.verdict) === 1) expect(compose.findings[0]?.message).toContain('not seen')
        }
      }),
      { numRuns: 36, endOnFailure: true },
    )
  })

  it('never call a seam closed whose step is over one and a half of every other', async () => {
    let tried = 0
    await fc.assert(
      fc.asyncProperty(leaping, async (loop) => {
        const frames = await framesOf(loop)
        const steps = frames.map((frame, n) => plainStep(frame, frames[(n + 1) % frames.length] as Picture))
        const seam = steps.at(-1) as number
        fc.pre(loop.length >= 3 && seam > 1.5 * Math.max(...steps.slice(0, -1)))
        tried++
        expect((await checkedDocument(loop)).seam.verdict).not.toBe('closes')
      }),
      { numRuns: 40 },
    )
    // Random documents alone never have such a seam.
    expect(tried).toBeGreaterThanOrEqual(40)
  })
})
