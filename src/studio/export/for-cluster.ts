import { strToU8, type Zippable, zip } from 'fflate'
import type { FileFormat } from '@/core/clock'
import { formatLoop, holdsMedia, type Loop } from '@/core/document'
import {
  type CostedFile,
  divides,
  type FileSettings,
  planFiles,
  settingsFor,
  timingIn,
  withFormat,
} from '@/core/output'
import { scaledSize } from '@/render/browser'
import { fileName, loopArchive } from '../files'

/** Endings by which the command line knows formats; those that it does not write are left out. */
export const CLUSTER_ENDINGS: Readonly<Partial<Record<FileFormat, string>>> = {
  gif: 'gif',
  apng: 'apng',
  webp: 'webp',
  avif: 'avif',
  mp4: 'mp4',
  webm: 'webm',
  svg: 'svg',
  lottie: 'json',
  'png-sequence': 'zip',
}

/** Assumed speed of the cluster, px per second: its real speed is unknown here, so tasks are balanced by pixels. */
const PIXELS_A_SECOND = 2_000_000

const stateOf = async (loop: Loop): Promise<string> => {
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(formatLoop(loop)))
  return [...new Uint8Array(digest)]
    .map((byte) => byte.toString(16).padStart(2, '0'))
    .join('')
    .slice(0, 16)
}

const counted = (count: number, one: string) => `${count} ${one}${count === 1 ? '' : 's'}`
const README = (tasks: number, files: number) => `# ${counted(files, 'file')} in ${counted(tasks, 'task')}

Written by Cyclon. On every machine: Node 20.9 or newer, and a checkout of Cyclon in which \`npm ci\` has run. Unpack this where all machines see it, and there:

    node CHECKOUT/bin/cyclon.mjs work plan.json --task 0      # … to ${tasks - 1}: each by anyone, in any order, as often as you like
    node CHECKOUT/bin/cyclon.mjs join plan.json

The second one puts together what was done in pieces, proves it, and names what is missing. On Slurm both are

    CYCLON='node CHECKOUT/bin/cyclon.mjs' ./slurm.sh plan.json

and \`kubernetes.yaml\` is an indexed Job. The files come to \`out/\`, with every proof in \`cyclon-manifest.json\`. MP4, WebM and AVIF need an installed ffmpeg, loops with models an installed Chromium.
`

/**
 * Loops with their media, a plan, job files for schedulers and what to do with them, as a ZIP.
 * @throws LoopFileError, Error where the job files cannot be fetched
 */
export async function forCluster(
  loops: readonly Loop[],
  formats: readonly FileFormat[],
  sizes: readonly number[],
  settings: FileSettings,
): Promise<Blob> {
  const response = await fetch('/api/job-files')
  if (!response.ok) throw new Error('The job files could not be fetched. Reload the page, and try again.')
  const files: Zippable = {}
  for (const [name, text] of Object.entries((await response.json()) as Record<string, string>))
    files[name] = [strToU8(text), { attrs: name.endsWith('.sh') ? 0o755 << 16 : 0o644 << 16, os: 3 }]
  const wanted: CostedFile[] = []
  const taken = new Set<string>()
  for (const loop of loops) {
    let stem = fileName(loop, '')
    for (let n = 2; taken.has(stem); n++) stem = fileName(loop, `-${n}`)
    taken.add(stem)
    const path = `loops/${stem}.cyclon.${holdsMedia(loop) ? 'zip' : 'json'}`
    files[path] = holdsMedia(loop) ? await loopArchive(loop) : strToU8(formatLoop(loop))
    const state = await stateOf(loop)
    for (const format of formats) {
      const ending = CLUSTER_ENDINGS[format]
      if (!ending) continue
      for (const scale of sizes) {
        const own = settingsFor(loop, { ...withFormat(settings, format), scale })
        const { width, height } = scaledSize(loop, scale)
        const frames = timingIn(loop, own).frames.length
        wanted.push({
          loop: path,
          state,
          out: `out/${stem}-${width}x${height}.${ending}`,
          scale,
          repeats: settings.repeats,
          background: settings.background === 'removed' ? 'removed' : 'kept',
          quality: settings.lossless ? null : settings.quality,
          settings: own,
          frames,
          each: (width * height) / PIXELS_A_SECOND,
          divides: divides(own),
        })
      }
    }
  }
  const plan = planFiles(wanted, null)
  files['plan.json'] = strToU8(`${JSON.stringify(plan, null, 1)}\n`)
  files['README.md'] = strToU8(README(plan.tasks.length, plan.files.length))
  const bytes = await new Promise<Uint8Array<ArrayBuffer>>((resolve, reject) =>
    zip(files, { level: 3 }, (error, data) => (error ? reject(error) : resolve(data as Uint8Array<ArrayBuffer>))),
  )
  return new Blob([bytes], { type: 'application/zip' })
}
