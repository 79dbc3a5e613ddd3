import { z } from 'zod'
import { GROUNDS } from '../../../seam'
import { CAMERA_MODELS, type CameraModel } from '../../steady/camera'
import type { MendKind } from '../mend-kind'
import { type ClipPlan, type SourceMend, sourcesOf } from '../plan'
import { ground } from './values'

type Of<K extends SourceMend['kind']> = Extract<SourceMend, { readonly kind: K }>

/** Adds an edit of the source pictures that the plan shows; what it learns from them, and does, is in `source.ts`. */
function withEdit(plan: ClipPlan, mend: SourceMend): ClipPlan {
  let from = Infinity
  let to = 0
  for (const frame of plan.frames.flatMap(sourcesOf)) {
    from = Math.min(from, frame)
    to = Math.max(to, frame)
  }
  return { ...plan, edits: [...plan.edits, { mend, from, to }] }
}

/** Pixels that look the same on a ground in all frames have the same alpha in all of them. */
export const sameEdgeMend: MendKind<Of<'same-edge'>> = {
  schema: z.object({ kind: z.literal('same-edge'), ground }),
  answers: ({ kind, ground: on = 'white' }) =>
    kind === 'fringe'
      ? [{ label: 'Give every frame the same edge', mend: { kind: 'same-edge', ground: GROUNDS[on] } }]
      : [],
  words: () => 'every frame given the same edge',
  apply: withEdit,
}

/** Every frame is laid on a colour. */
export const matteMend: MendKind<Of<'matte'>> = {
  schema: z.object({ kind: z.literal('matte'), colour: ground }),
  answers: ({ kind, ground: on = 'white' }) =>
    kind === 'fringe' ? [{ label: `Lay all frames on ${on}`, mend: { kind: 'matte', colour: GROUNDS[on] } }] : [],
  words: ({ colour }) => `laid on rgb(${colour.map(Math.round).join(' ')})`,
  apply: withEdit,
}

/** How a camera moved, in words. */
export const CAMERA_WORDS: Readonly<Record<CameraModel, string>> = {
  shift: 'shift',
  similarity: 'shift, turn and zoom',
  perspective: 'perspective',
}

/** The motion of the camera is taken out. */
export const steadyMend: MendKind<Of<'steady'>> = {
  schema: z.object({ kind: z.literal('steady'), model: z.enum(CAMERA_MODELS) }),
  words: ({ model }) => `steadied: ${CAMERA_WORDS[model]}`,
  apply: withEdit,
}

/** The light of every frame is brought to that of all. */
export const evenLightMend: MendKind<Of<'even-light'>> = {
  schema: z.object({ kind: z.literal('even-light') }),
  answers: ({ kind }) =>
    kind === 'drift' ? [{ label: 'Even out the light of every frame', mend: { kind: 'even-light' } }] : [],
  words: () => 'light evened out',
  apply: withEdit,
}
