import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { awningAndGulls, ferryWake, lampRoomGlass } from '../demo/clips'
import { videoSource } from '../src/cli/video'
import {
  CAMERA_MODELS,
  type ClipShape,
  cameraPath,
  composed,
  cutCosts,
  cutMap,
  Distances,
  type Glimpse,
  glimpseOf,
  grainIn,
  type Mend,
  type Mixed,
  meanLight,
  mendedPlan,
  mixFrame,
  PartsFinder,
  type PlanFrame,
  SAME_VIEW,
  type SceneView,
  seenAt,
} from '../src/core/footage'
import type { Picture } from '../src/core/image'
import { describeFrame, judgeClip } from '../src/core/seam'
import { CLIP_KINDS, isFound, knownClip } from '../src/core/testing/clips'
import { field, filmed, wall } from '../src/core/testing/footage'

const SEEDS = 10

/** The table of the corpus: of each kind, in how many clips what is known of it is found. */
function corpusTable(): string[] {
  return CLIP_KINDS.map((kind) => {
    let found = 0
    for (let seed = 1; seed <= SEEDS; seed++) if (isFound(knownClip(kind, seed))) found++
    return `| ${kind} | ${found} of ${SEEDS} |`
  })
}

/** How far places of the scene still move, root mean square, px of 640: by what is known of the camera. */
function leftOf(view: (n: number) => SceneView, found: readonly SceneView[]): number {
  let sum = 0
  let count = 0
  for (const x of [-0.4, 0, 0.4])
    for (const y of [-0.2, 0, 0.2]) {
      const seen = found.map((each, n) => seenAt(composed(view(n), each), x, y))
      const mean = [0, 1].map((k) => seen.reduce((all, place) => all + (place[k] as number), 0) / seen.length)
      for (const place of seen) {
        sum += (place[0] - (mean[0] as number)) ** 2 + (place[1] - (mean[1] as number)) ** 2
        count++
      }
    }
  return 640 * Math.sqrt(sum / count)
}

const STEADIED = 60

/** The shake that is left of the demo clips at 640 × 360, by each model. */
async function steadyTable(): Promise<string[]> {
  const rows: string[] = []
  for (const [name, clip] of Object.entries({
    'Lamp-room glass': lampRoomGlass,
    'Ferry wake': ferryWake,
    'Awning and gulls': awningAndGulls,
  })) {
    const small = { ...clip, width: 640, height: 360 }
    const pictures = Array.from({ length: STEADIED }, (_, n) => filmed(small, n))
    const view = small.view ?? (() => SAME_VIEW)
    const before = leftOf(
      view,
      pictures.map(() => SAME_VIEW),
    )
    const after: string[] = []
    for (const model of CAMERA_MODELS) {
      const path = await cameraPath(() => pictures, STEADIED, model)
      after.push(leftOf(view, path.views).toFixed(2))
    }
    rows.push(`| ${name} | ${before.toFixed(2)} | ${after.join(' | ')} |`)
  }
  return rows
}

/** How far each pixel is from the nearest one about it in any of some pictures: what is seen of it nowhere is a ghost. */
function ghosting(made: Picture, sources: readonly Picture[], reach = 4): number {
  const { width, height, data } = made
  let sum = 0
  let count = 0
  for (let y = reach; y < height - reach; y += 2)
    for (let x = reach; x < width - reach; x += 2) {
      const i = 4 * (y * width + x)
      let least = Infinity
      for (const source of sources)
        for (let dy = -reach; dy <= reach; dy++)
          for (let dx = -reach; dx <= reach; dx++) {
            const j = i + 4 * (dy * width + dx)
            const by =
              Math.abs((data[i] as number) - (source.data[j] as number)) +
              Math.abs((data[i + 1] as number) - (source.data[j + 1] as number)) +
              Math.abs((data[i + 2] as number) - (source.data[j + 2] as number))
            if (by < least) least = by
          }
      sum += least / 3
      count++
    }
  return sum / count
}

/** How far two pictures are apart, in the mean, of 255. */
const meanDistance = (one: Picture, other: Picture): number =>
  one.data.reduce((sum, value, i) => sum + Math.abs(value - (other.data[i] as number)), 0) / (0.75 * one.data.length)

/** How sharp a picture is: the mean step from a pixel to those beside it. */
function sharpness({ width, height, data }: Picture): number {
  let sum = 0
  for (let y = 0; y + 1 < height; y++)
    for (let x = 0; x + 1 < width; x++) {
      const i = 4 * (y * width + x) + 1
      sum +=
        Math.abs((data[i] as number) - (data[i + 4] as number)) +
        Math.abs((data[i] as number) - (data[i + 4 * width] as number))
    }
  return sum / (2 * width * height)
}

const half = (how: Omit<Mixed, 'parts'>): PlanFrame => ({
  parts: [0, 1].map((frame) => ({ frame, weight: 0.5, gain: [1, 1, 1] as const })),
  ...how,
})

/** Ghosts, contrast and sharpness half-way between two ends, of what moves: against the mean of both ends. */
function mendTable(): string[] {
  const size = { width: 320, height: 180, frames: 1, seed: 3, grain: 2, looks: 2 }
  const grain = { deviation: size.grain, width: size.width }
  const scenes: Readonly<Record<string, (by: number) => Picture>> = {
    'stripes that sway by 6 px': (by) =>
      filmed(
        {
          ...size,
          scene: (x, _y, _n, into) => into.fill(120 + 70 * Math.tanh(4 * Math.sin(60 * (x - (by * 6) / 320)))),
        },
        by,
      ),
    'waves that run on by 4 px': (by) =>
      filmed(
        { ...size, scene: (x, y, _n, into) => into.fill(120 + 90 * field(5, 14 * (x - (by * 4) / 320), 14 * y)) },
        by,
      ),
    'cloth that ripples by 7 px': (by) =>
      filmed(
        {
          ...size,
          scene(x, y, _n, into) {
            const sx = x - (by * 5 * Math.sin(9 * y + 5 * x)) / 320
            const sy = y - (by * 7 * Math.sin(7 * x + 1)) / 320
            const stripe = Math.tanh(6 * Math.sin(70 * sx + 0.2 * Math.sin(20 * sy)))
            const weave = 14 * field(21, sx * 90, sy * 90)
            into.set([150 + 60 * stripe + weave, 120 + weave - 30 * stripe, 110 + weave - 30 * stripe])
          },
        },
        by,
      ),
    'reeds that bend by up to 13 px before a wall': (by) =>
      filmed(
        {
          ...size,
          scene(x, y, _n, into) {
            const high = Math.max(0, 0.28 - y) / 0.56
            const sx = x - (by * 13 * high * high) / 320
            const shade = 0.7 + 0.3 * field(12, sx * 40, y * 6)
            if (Math.sin(90 * sx + 6 * field(9, sx * 4, 0.5)) > 0.55)
              into.set([70 * shade + 40, 110 * shade + 40, 50 * shade])
            else wall(x, y, into)
          },
        },
        by,
      ),
    'a lamp that goes 8 px on': (by) =>
      filmed(
        {
          ...size,
          scene(x, y, _n, into) {
            const lit = Math.max(0, 1 - Math.hypot(x - (by * 8) / 320, y) / 0.1)
            into.set([40 + 200 * lit, 50 + 150 * lit, 70 + 40 * lit])
          },
        },
        by,
      ),
    'foam that has nothing in common': (by) =>
      filmed({ ...size, scene: (x, y, _n, into) => into.fill(120 + 70 * field(50 + by, 22 * x, 22 * y)) }, by),
  }
  return Object.entries(scenes).map(([name, at]) => {
    const ends = [at(0), at(1)] as const
    const made = (how: Parameters<typeof half>[0]) => mixFrame(half({ ...how, grain }), (n) => ends[n] as Picture)
    const mix = made({ keepVariance: false })
    const kept = made({ keepVariance: true })
    const morph = made({ keepVariance: false, morph: true })
    const deviation = ({ data }: Picture) => {
      let sum = 0
      let squares = 0
      for (let i = 1; i < data.length; i += 4) {
        sum += data[i] as number
        squares += (data[i] as number) ** 2
      }
      const n = data.length / 4
      return Math.sqrt(squares / n - (sum / n) ** 2)
    }
    const contrast = (of: Picture) =>
      `${((200 * deviation(of)) / (deviation(ends[0]) + deviation(ends[1]))).toFixed(0)} %`
    const sharp = (of: Picture) => `${((200 * sharpness(of)) / (sharpness(ends[0]) + sharpness(ends[1]))).toFixed(0)} %`
    // Foam that has nothing in common has nothing between, either.
    const truth = name.includes('nothing') ? null : at(0.5)
    const off = (of: Picture) => (truth ? meanDistance(of, truth).toFixed(2) : '')
    return `| ${name} | ${ghosting(mix, ends).toFixed(2)} | ${ghosting(morph, ends).toFixed(2)} | ${truth ? ghosting(truth, ends).toFixed(2) : ''} | ${off(mix)} | ${off(morph)} | ${contrast(mix)} | ${contrast(kept)} | ${contrast(morph)} | ${sharp(kept)} | ${sharp(morph)} |`
  })
}

/** Energy of regions against the best single cut, over the clips of the corpus that move. */
async function partsTable(): Promise<string[]> {
  const rows: string[] = []
  for (const kind of CLIP_KINDS.filter((each) => each !== 'all cuts' && each !== 'still')) {
    const { pictures } = knownClip(kind, 1)
    const finder = new PartsFinder()
    for (const picture of pictures) finder.add(picture)
    const { energy, single, regions } = await finder.find({ least: 8, length: null, amount: 1 })
    rows.push(`| ${kind} | ${pictures.length} | ${regions.length} | ${(energy / single).toFixed(2)} |`)
  }
  return rows
}

/** Ways to close a clip, by name. */
const WAYS: Readonly<Record<string, (frames: number) => Mend>> = {
  overlap: (frames) => ({ kind: 'overlap', frames, keepVariance: false }),
  'contrast kept': (frames) => ({ kind: 'overlap', frames, keepVariance: true }),
  morph: (frames) => ({ kind: 'overlap', frames, keepVariance: false, morph: true }),
  'there and back': () => ({ kind: 'there-and-back' }),
}

/** The verdicts of the seam of every kind of clip, cut in its middle where it does not close, and closed in each way. */
async function closedTable(): Promise<string[]> {
  const rows: string[] = []
  for (const kind of CLIP_KINDS) {
    const { pictures } = knownClip(kind, 1)
    const N = pictures.length
    const clip: ClipShape = {
      delaysMs: pictures.map(() => 40),
      playsForever: true,
      means: pictures.map(meanLight),
      grain: grainIn(pictures),
    }
    const length = Math.round(N * 0.43)
    const crop: Mend = { kind: 'crop', from: Math.round(N / 4), to: Math.round(N / 4) + length - 1 }
    const verdict = (mends: readonly Mend[]) => {
      const plan = mendedPlan(clip, mends)
      const described = plan.frames.map((frame) => describeFrame(mixFrame(frame, (n) => pictures[n] as Picture)))
      return judgeClip(described, plan).seam.verdict.replaceAll('-', ' ')
    }
    const finder = new PartsFinder()
    for (const picture of pictures) finder.add(picture)
    const parts = (await finder.find({ least: 8, length: null, amount: 1 })).regions
    const K = Math.min(16, length >> 2)
    const verdicts = [verdict([crop]), ...Object.values(WAYS).map((way) => verdict([crop, way(K)])), verdict([parts])]
    rows.push(`| ${kind} | ${verdicts.join(' | ')} |`)
  }
  return rows
}

/** Descriptors and map of 3,000 frames against decoding them; a morph against a mix. */
export async function footageRows(): Promise<string[]> {
  const folder = mkdtempSync(join(tmpdir(), 'cyclon-bench-'))
  try {
    const path = join(folder, 'long.webm')
    const made = spawnSync('ffmpeg', [
      ...['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=s=1280x720:r=25:d=120'],
      ...['-c:v', 'libvpx-vp9', '-deadline', 'realtime', '-cpu-used', '8', '-b:v', '2M', path],
    ])
    if (made.status !== 0) throw new Error(`No clip to measure: ${made.stderr}`)
    let decoding = 0
    let looking = 0
    const glimpses: Glimpse[] = []
    const frames = videoSource(path).frames()
    for (;;) {
      let before = performance.now()
      const { value, done } = await frames.next()
      decoding += performance.now() - before
      if (done || !value) break
      before = performance.now()
      glimpses.push(glimpseOf(value))
      looking += performance.now() - before
    }
    const count = glimpses.length
    const before = performance.now()
    const costs = cutCosts(new Distances(glimpses), { least: 10, most: count, from: 0, to: count })
    cutMap(costs, { across: 150, down: 48 })
    const mapping = performance.now() - before
    const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`
    const ends = [0, 1].map((n) => filmed({ ...awningAndGulls, width: 1280, height: 720 }, 12 * n)) as [
      Picture,
      Picture,
    ]
    const timed = (how: Parameters<typeof half>[0], times: number) => {
      const from = performance.now()
      for (let n = 0; n < times; n++) mixFrame(half(how), (k) => ends[k] as Picture)
      return ((performance.now() - from) / times) * 20
    }
    const mixing = timed({ keepVariance: false }, 5)
    const morphing = timed({ keepVariance: false, morph: true }, 5)
    return [
      `| descriptors of ${count} frames of 1280×720, and the map of all their loops | decoding them with the media program | ${seconds(looking)} and ${seconds(mapping)} against ${seconds(decoding)} | ${((looking + mapping) / decoding).toFixed(2)} | ≤ 0.1 |`,
      `| a morph of 20 frames at 1280×720, in a worker or on the command line | a mix of them | ${seconds(morphing)} against ${seconds(mixing)} | ${(morphing / mixing).toFixed(1)} | |`,
    ]
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/** All tables of footage that are no ratios of times. */
export async function footageTables(): Promise<string[]> {
  return [
    ...['', '| clips | what is known of them is found |', '|---|--:|', ...corpusTable()],
    ...[
      '',
      '| clip | shake, px of 640 | shift | similarity | perspective |',
      '|---|--:|--:|--:|--:|',
      ...(await steadyTable()),
    ],
    ...[
      '',
      '| half-way between two ends | ghosts, mix | morph | true picture | off that, mix | morph | contrast, mix | kept | morph | sharpness, kept | morph |',
      '|---|--:|--:|--:|--:|--:|--:|--:|--:|--:|--:|',
      ...mendTable(),
    ],
    ...[
      '',
      `| cut anywhere, and closed | as it is | ${Object.keys(WAYS).join(' | ')} | in parts |`,
      '|---|---|---|---|---|---|---|',
      ...(await closedTable()),
    ],
    ...[
      '',
      '| in parts | frames | length | energy against the best single cut |',
      '|---|--:|--:|--:|',
      ...(await partsTable()),
    ],
  ]
}
