import { fraction } from '../clock'
import { type Layer, type Loop, namedIn } from '../document'
import { newLayer, newLoop } from '../edit'
import type { Clip, Medium } from '../media'
import { evenly } from '../motion'
import type { SeamReport } from './verdict'

const isClip = (medium: Medium): medium is Clip => medium.kind === 'clip'

/** The verdict on a clip that repeats by itself, and the first frame after its fault. */
type Seen = Pick<Clip, 'verdict' | 'faultFrame'>

/** Verdicts of clips by the files of their frames, which never change. */
const judged = new Map<string, Promise<Seen | null>>()

/** A loop that shows a clip alone, each of its frames for one. */
function clipAlone(clip: Clip): Loop {
  const { name, width, height, delaysMs } = clip
  const length = delaysMs.length
  const brief = { name, kind: 'loader', width, height, rate: fraction(25), length, background: null } as const
  const evened: Clip = { ...clip, delaysMs: new Array<number>(length).fill(40) }
  const values = { clip: clip.id, x: width / 2, y: height / 2, width, height }
  return {
    ...newLoop(brief, clip.id),
    media: [evened],
    layers: [{ ...newLayer('clip', name, values), motions: { time: evenly(1) } }],
  }
}

/** Faults of a frame by itself; all others lie between it and the next. */
const OF_A_FRAME: readonly Clip['verdict'][] = ['blank-frame', 'repeats-a-frame']

/** The verdict and fault frame of a clip with `length` frames, from the seam report of its pictures. */
export function clipVerdict({ verdict, frame, isStray }: SeamReport, length: number): Seen {
  const last = frame ?? length - 1
  return { verdict, faultFrame: isStray || OF_A_FRAME.includes(verdict) ? last : (last + 1) % length }
}

const withoutHidden = (layers: readonly Layer[]): Layer[] =>
  layers.flatMap((layer) => {
    if (layer.hidden) return []
    return layer.layers ? { ...layer, layers: withoutHidden(layer.layers) } : layer
  })

async function lookedAtOnce(clip: Clip, look: (clip: Clip) => Promise<Seen | null>): Promise<Seen | null> {
  const { id } = clip.frames
  const looking = judged.get(id) ?? look(clip)
  judged.set(id, looking)
  const seen = await looking.catch(() => null)
  // A clip that could not be judged now may be the next time.
  if (!seen) judged.delete(id)
  return looking
}

/**
 * The loop with each of its clips as it is judged here, whatever the file that the loop came from says of it.
 * @param seamOf judges the pictures of a loop; null where it was stopped: then the clip stays as it is
 * @throws what `seamOf` throws, where the files of a clip are missing among other reasons
 */
export async function withJudgedClips(loop: Loop, seamOf: (alone: Loop) => Promise<SeamReport | null>): Promise<Loop> {
  const shown = new Set([loop, ...loop.loops].flatMap(({ layers }) => namedIn(withoutHidden(layers), 'clip')))
  const look = async (clip: Clip) => {
    const seam = await seamOf(clipAlone(clip))
    return seam && clipVerdict(seam, clip.delaysMs.length)
  }
  const media: Medium[] = []
  for (const each of loop.media)
    media.push(isClip(each) && shown.has(each.id) ? { ...each, ...(await lookedAtOnce(each, look)) } : each)
  return { ...loop, media }
}
