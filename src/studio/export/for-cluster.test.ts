import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { unzipSync } from 'fflate'
import { afterAll, describe, expect, it, vi } from 'vitest'
import { joinPlan } from '@/cli/join-plan'
import { doTask } from '@/cli/work'
import { TOOLS } from '@/cli/write'
import { readClaims } from '@/codecs/claims'
import { WRITERS } from '@/codecs/write'
import type { FileFormat } from '@/core/clock'
import { type Loop, parseLoop } from '@/core/document'
import {
  backgroundIn,
  type FileSettings,
  PLAIN_SETTINGS,
  seeThrough,
  settingsFor,
  timingIn,
  withFormat,
} from '@/core/output'
import { NodeRenderer, picturesInNode } from '@/render/node'
import { scaledSize } from '@/render/renderer'

vi.mock('../files', () => ({
  fileName: ({ name }: Loop, ending: string) => `${name.toLowerCase().replaceAll(' ', '-')}${ending}`,
  loopArchive: () => {
    throw new Error('This loop holds no media.')
  },
}))
vi.stubGlobal('fetch', async () => ({ ok: true, json: async () => ({ 'slurm.sh': '', 'kubernetes.yaml': '' }) }))

const loop: Loop = { ...parseLoop(await readFile('demo/loops/beacon-loader.cyclon.json', 'utf8')), length: 24 }
let folder = ''
afterAll(() => rm(folder, { recursive: true }))

/** The file that the application writes: by the same writers, from frames drawn here. */
async function written(settings: FileSettings): Promise<Uint8Array> {
  const ground = backgroundIn(loop, settings)
  const shown = { ...loop, background: ground }
  const size = scaledSize(loop, settings.scale)
  const timing = timingIn(loop, settings)
  const renderer = new NodeRenderer(size.width, size.height)
  const pictures = await picturesInNode(shown)
  const { bytes } = await WRITERS[settings.format as keyof typeof WRITERS]({
    loop: shown,
    name: 'beacon-loader',
    ...size,
    timing,
    rate: loop.rate,
    settings,
    transparent: seeThrough(ground),
    draw: async (n) => renderer.picture(shown, timing.frames[n] as number, pictures),
    progress: async () => {},
    tools: TOOLS,
    mostKept: 0,
  })
  return bytes
}

describe('what is saved for a cluster', () => {
  it('is written there with all settings that are chosen here, byte by byte', async () => {
    const { forCluster } = await import('./for-cluster')
    const chosen: FileSettings = {
      ...PLAIN_SETTINGS,
      every: 2,
      repeats: 2,
      background: 'a colour',
      matte: '#123a4c',
      colours: 16,
      palettes: 'per frame',
      dithering: 'none',
      loss: 12,
      lossless: false,
      quality: 60,
    }
    const formats: FileFormat[] = ['gif', 'webp', 'apng']
    const archive = await forCluster([loop], formats, [0.2], chosen)
    folder = await mkdtemp(join(tmpdir(), 'cyclon-for-cluster-'))
    for (const [name, bytes] of Object.entries(unzipSync(new Uint8Array(await archive.arrayBuffer())))) {
      await mkdir(dirname(join(folder, name)), { recursive: true })
      await writeFile(join(folder, name), bytes)
    }
    const path = join(folder, 'plan.json')
    const plan = JSON.parse(await readFile(path, 'utf8'))
    for (const task of plan.tasks.keys()) await doTask(path, task, () => {})
    const said: string[] = []
    expect(await joinPlan(path, (line) => said.push(line)), said.join('\n')).toBe(true)
    for (const format of formats) {
      const settings = settingsFor(loop, { ...withFormat(chosen, format), scale: 0.2 })
      const { out } = plan.files.find((file: { readonly settings: FileSettings }) => file.settings.format === format)
      const bytes = new Uint8Array(await readFile(join(folder, out)))
      expect(bytes, format).toEqual(new Uint8Array(await written(settings)))
      expect(readClaims(bytes).delaysMs.length, format).toBe(24)
    }
  })
})
