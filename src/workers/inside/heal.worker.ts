import { transfer } from 'comlink'
import type { Loop } from '@/core/document'
import type { Picture } from '@/core/image'
import { assetsIn, type Files, filesOf, type Medium, mediumKind, picturesOf, readPictureFile } from '@/core/media'
import {
  type Axis,
  type Heal,
  type HealPlan,
  healedBy,
  healPlan,
  judgeTile,
  movedByHalf,
  type TileReport,
  usualBand,
} from '@/core/texture'
import { serve } from '../shared/serve'
import { breathe } from '../shared/timing'
import { bitmapOf, pictureOf } from './bitmap'
import { storedFrames } from './clip-frames/stored'

/** Frames of a clip by which it is decided how all are mended. */
const SAMPLES = 5

let stopped = false

/** The pixels of pictures of a medium, decoded one at a time. @throws Error where the file is missing or damaged */
function readerOf(medium: Medium) {
  const files = picturesOf([medium])
  return async (n: number): Promise<Picture> => {
    const file = files[n]
    const blob = file && (await readPictureFile(file))
    const picture = blob && (await pictureOf(blob))
    if (!picture) throw new Error(`The file of “${medium.name}” is missing or damaged. Bring it in again.`)
    return picture
  }
}

/** Three of `count` frames, spread over all of them. */
const spread = (count: number): number[] => [
  ...new Set(Array.from({ length: Math.min(SAMPLES, count) }, (_, i) => Math.floor((i * count) / SAMPLES))),
]

const mediumOf = ({ media }: Loop, id: string): Medium => {
  const medium = media.find((each) => each.id === id)
  if (!medium) throw new Error('The picture is no longer in the loop.')
  return medium
}

async function samplesOf(medium: Medium): Promise<Picture[]> {
  const read = readerOf(medium)
  const samples: Picture[] = []
  for (const n of spread(picturesOf([medium]).length)) samples.push(await read(n))
  return samples
}

/** The worst of several pictures in each direction. */
function worstOf(reports: readonly TileReport[]): TileReport {
  const worst = (axis: Axis) => reports.map((report) => report[axis]).reduce((a, b) => (b.ratio > a.ratio ? b : a))
  return { x: worst('x'), y: worst('y') }
}

/** Result of healing a medium in one way. */
export interface HealTry {
  readonly by: Heal
  readonly report: TileReport
  /** px */
  readonly width: number
  readonly height: number
  /** Its first picture, moved on by half both ways, so that the edges meet in the middle. */
  readonly bitmap: ImageBitmap
}

/** Plans for one direction after the other, each for pictures as the one before left them. */
function plansFor(samples: readonly Picture[], axes: readonly Axis[], by: Heal, band: number | null) {
  let now = samples
  const plans: HealPlan[] = []
  for (const axis of axes) {
    const side = axis === 'x' ? (now[0] as Picture).width : (now[0] as Picture).height
    const plan = healPlan(now, axis, by, band ?? usualBand(side))
    plans.push(plan)
    now = now.map((picture) => healedBy(picture, plan))
  }
  return { plans, pictures: now }
}

const service = {
  /** How the pictures of a medium meet themselves, and the first of them moved on by half. @throws RangeError where it is too small */
  async look(loop: Loop, id: string): Promise<Omit<HealTry, 'by'>> {
    const samples = await samplesOf(mediumOf(loop, id))
    const { width, height } = samples[0] as Picture
    const bitmap = await bitmapOf(movedByHalf(samples[0] as Picture))
    return transfer({ report: worstOf(samples.map(judgeTile)), width, height, bitmap }, [bitmap])
  },

  /**
   * Heals it in one way.
   * @param band px; an eighth of the side if null
   */
  async attempt(loop: Loop, id: string, axes: readonly Axis[], by: Heal, band: number | null): Promise<HealTry> {
    const { pictures } = plansFor(await samplesOf(mediumOf(loop, id)), axes, by, band)
    const [first] = pictures as [Picture]
    const bitmap = await bitmapOf(movedByHalf(first))
    const { width, height } = first
    return transfer({ by, report: worstOf(pictures.map(judgeTile)), width, height, bitmap }, [bitmap])
  },

  /**
   * The medium with all its pictures mended alike, and the files of it; null where it was stopped.
   * @param progress is told how many are done
   */
  async heal(
    loop: Loop,
    id: string,
    axes: readonly Axis[],
    by: Heal,
    band: number | null,
    progress: (pictures: number) => void,
  ): Promise<{ readonly medium: Medium; readonly files: Files; readonly how: string } | null> {
    stopped = false
    const medium = mediumOf(loop, id)
    const { withPictures } = mediumKind(medium.kind)
    if (!withPictures) throw new Error(`${medium.name} cannot be mended.`)
    const { plans, pictures } = plansFor(await samplesOf(medium), axes, by, band)
    const { width, height } = pictures[0] as Picture
    const read = readerOf(medium)
    const mended = async (n: number) => plans.reduce(healedBy, await read(n))
    try {
      const { frames, how } = await storedFrames(picturesOf([medium]).length, mended, async (done) => {
        progress(done)
        await breathe()
        if (stopped) throw new Stopped()
      })
      const changed = withPictures(medium, { width, height }, frames)
      return { medium: changed, files: await filesOf(assetsIn([changed])), how }
    } catch (error) {
      if (error instanceof Stopped) return null
      throw error
    }
  },

  stop(): void {
    stopped = true
  },
}

class Stopped extends Error {}

export type HealService = typeof service
serve(service)
