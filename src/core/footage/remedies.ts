import { type Finding, GROUNDS, MIN_KEPT_DELAY_MS } from '../seam'
import type { CameraModel } from './camera'
import type { Between } from './joining'
import type { Mend } from './mend'

/** A mend that answers a finding, in words. */
export interface OfferedMend {
  readonly label: string
  readonly mend: Mend
}

/** The least delay that all viewers honour, ms. */
const HONOURED_MS = 2 * MIN_KEPT_DELAY_MS

/** The mends that answer a finding in a clip of N frames, the plainest first. */
export function mendsFor(finding: Finding, N: number): OfferedMend[] {
  const { kind, frame, length } = finding
  switch (kind) {
    case 'blank-frame':
    case 'stray-frame':
    case 'repeats-a-frame':
      return frame === null ? [] : [{ label: `Drop frame ${frame}`, mend: { kind: 'drop', frames: [frame] } }]
    case 'jumps': {
      const K = Math.max(2, Math.min(Math.round(N / 4), 24))
      return N < 4
        ? []
        : [
            { label: `Overlap the ends by ${K} frames`, mend: { kind: 'overlap', frames: K, keepVariance: false } },
            {
              label: `Overlap by ${K}, contrast kept`,
              mend: { kind: 'overlap', frames: K, keepVariance: true },
            },
            {
              label: `Morph over ${K} frames`,
              mend: { kind: 'overlap', frames: K, keepVariance: false, morph: true },
            },
            { label: `There and back, ${2 * N - 2} frames`, mend: { kind: 'there-and-back' } },
          ]
    }
    case 'jumps-inside': {
      if (frame === null || N < 4) return []
      // The longer side of the cut.
      const [from, to] = frame + 1 >= N / 2 ? [0, frame] : [frame + 1, N - 1]
      return [{ label: `Crop to frames ${from} to ${to}`, mend: { kind: 'crop', from, to } }]
    }
    case 'drift': {
      const everyFrame: OfferedMend = { label: 'Even out the light of every frame', mend: { kind: 'even-light' } }
      // The line of exposure begins at frame 0: it does not mend what jumps back elsewhere.
      return frame === N - 1
        ? [{ label: 'Even out exposure and colour', mend: { kind: 'even-exposure' } }, everyFrame]
        : [everyFrame]
    }
    case 'shorter-loop':
      return length
        ? [{ label: `Cut it to its first ${length} frames`, mend: { kind: 'crop', from: 0, to: length - 1 } }]
        : []
    case 'plays-once':
      return [{ label: 'Repeat for ever', mend: { kind: 'for-ever' } }]
    case 'uneven-delays':
      return [{ label: 'Even out the delays', mend: { kind: 'even-delays' } }]
    case 'fringe': {
      const ground = finding.ground ?? 'white'
      return [
        { label: 'Give every frame the same edge', mend: { kind: 'same-edge', ground: GROUNDS[ground] } },
        { label: `Lay all frames on ${ground}`, mend: { kind: 'matte', colour: GROUNDS[ground] } },
      ]
    }
    case 'delay-too-short':
      return [{ label: `At least ${HONOURED_MS} ms for each frame`, mend: { kind: 'slower', delayMs: HONOURED_MS } }]
    default:
      return []
  }
}

/** How frames between others come to be, in words. */
export const BETWEEN_WORDS: Readonly<Record<Between, string>> = {
  flow: 'along the motion',
  blend: 'blended',
  hold: 'held',
}

/** How a camera moved, in words. */
export const CAMERA_WORDS: Readonly<Record<CameraModel, string>> = {
  shift: 'shift',
  similarity: 'shift, turn and zoom',
  perspective: 'perspective',
}

/** A mend in words, for the list of what was done. */
export function mendWords(mend: Mend): string {
  switch (mend.kind) {
    case 'drop':
      return `frame${mend.frames.length > 1 ? 's' : ''} ${mend.frames.join(', ')} dropped`
    case 'crop':
      return `cropped to frames ${mend.from} to ${mend.to}`
    case 'there-and-back':
      return 'there and back'
    case 'overlap':
      return `ends overlapped by ${mend.frames}${mend.morph ? ', morphed along their motion' : mend.keepVariance ? ', contrast kept' : ''}`
    case 'parts': {
      const moving = mend.loops.filter(({ period }) => period > 1)
      return `${moving.length} region${moving.length === 1 ? '' : 's'}, each with its own loop, over ${mend.length} frames`
    }
    case 'reverse':
      return 'reversed'
    case 'pace':
      return `${Number(mend.speed.toFixed(3))} times as fast${mend.speed < 1 ? `, ${BETWEEN_WORDS[mend.between]}` : ''}`
    case 'even-exposure':
      return 'exposure and colour evened out'
    case 'even-delays':
      return 'delays evened out'
    case 'slower':
      return `at least ${mend.delayMs} ms each`
    case 'last':
      return `made to last ${Number(mend.seconds.toFixed(3))} s`
    case 'for-ever':
      return 'set to repeat for ever'
    case 'steady':
      return `steadied: ${CAMERA_WORDS[mend.model]}`
    case 'even-light':
      return 'light evened out'
    case 'same-edge':
      return 'every frame given the same edge'
    case 'matte':
      return `laid on rgb(${mend.colour.map(Math.round).join(' ')})`
  }
}
