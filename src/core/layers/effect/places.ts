import { timeProperty } from '../kind'
import type { PropertyTable } from '../property'
import type { Values } from '../types'
import { amount, defineEffect, edges, effectColour, effectSeed, length } from './effect'

const share = (label: string, value: number, max = 1) => amount(label, 'share', { default: value, min: 0, max })

/** Effects that look at more than one place of the picture, or at where it is. */
const BLUR = { radius: length('radius', 8), edges } as const satisfies PropertyTable

export const softness = defineEffect({
  kind: 'blurred',
  label: 'Blur',
  icon: 'droplet',
  properties: BLUR,
})

const GLOW = {
  amount: share('amount', 0.8, 8),
  radius: length('radius', 16),
  from: share('from', 0.5),
  edges,
} as const satisfies PropertyTable

export const glow = defineEffect({
  kind: 'glow',
  label: 'Glow',
  icon: 'sun',
  properties: GLOW,
})

const SHARPEN = {
  amount: share('amount', 0.6, 8),
  radius: length('radius', 1.5, 100),
  edges,
} as const satisfies PropertyTable

export const sharpness = defineEffect({
  kind: 'sharpen',
  label: 'Sharpen',
  icon: 'triangle',
  properties: SHARPEN,
})

const GRAIN = {
  amount: { ...share('amount', 0.06), step: 0.01 },
  size: length('size', 1.5, 100),
  colours: { type: 'choice', label: 'grains', section: 'effect', options: ['grey', 'coloured'], default: 'grey' },
  time: { ...timeProperty, section: 'effect', label: 'changes' },
  changes: {
    type: 'number',
    label: 'times',
    section: 'effect',
    unit: '',
    default: 12,
    min: 1,
    max: 1000,
    step: 1,
    whole: true,
  },
  seed: effectSeed,
} as const satisfies PropertyTable

export const grain = defineEffect({
  kind: 'grain',
  label: 'Grain',
  icon: 'grain',
  begins: ['time'],
  properties: GRAIN,
  note: {
    section: 'effect',
    cycleOf: 'time',
    text: ({ changes }, seconds) =>
      seconds === null
        ? 'It stands still.'
        : `A new grain every ${Number((seconds / Number(changes)).toFixed(3))} s; the first comes back at the seam.`,
  },
})

const VIGNETTE = {
  amount: share('amount', 0.6),
  from: share('from', 0.35, 2),
  softness: share('softness', 0.7, 2),
  colour: effectColour('colour', '#03101a'),
} as const satisfies PropertyTable

export const vignette = defineEffect({
  kind: 'vignette',
  label: 'Vignette',
  icon: 'frame',
  properties: VIGNETTE,
})

/** By what pixels are moved: a ready field, or the brightness of what the effect holds. */
const WAYS = ['waves', 'swirl', 'heat haze', 'glass', 'layers'] as const

const preset = (label: string, values: Values) => ({ label, values })

const DISPLACEMENT = {
  by: { type: 'choice', label: 'by', section: 'effect', options: WAYS, default: 'waves' },
  amount: {
    ...amount('amount', 'px', { default: 8, min: -1000, max: 1000, step: 1 }),
    when: ({ by }: Values) => by !== 'swirl',
  },
  size: { ...length('size', 90, 4000), min: 1, when: ({ by }: Values) => by !== 'layers' },
  angle: {
    ...amount('angle', '°', { default: 0, step: 5 }),
    when: ({ by }: Values) => by === 'waves' || by === 'swirl' || by === 'layers',
  },
  time: { ...timeProperty, section: 'effect', when: ({ by }: Values) => by !== 'layers' },
  seed: { ...effectSeed, when: ({ by }: Values) => by === 'heat haze' || by === 'glass' },
  edges,
} as const satisfies PropertyTable

export const displacement = defineEffect({
  kind: 'displacement',
  label: 'Displacement',
  icon: 'waves',
  heldIsMap: true,
  begins: ['time'],
  presets: [
    preset('Waves', { by: 'waves', amount: 8, size: 90, angle: 0 }),
    preset('Swirl', { by: 'swirl', size: 320, angle: 40 }),
    preset('Heat haze', { by: 'heat haze', amount: 5, size: 60, angle: 0 }),
    preset('Glass', { by: 'glass', amount: 14, size: 160, angle: 0 }),
    preset('What it holds', { by: 'layers', amount: 40, angle: 0 }),
  ],
  properties: DISPLACEMENT,
  note: {
    section: 'effect',
    text: ({ by }) =>
      by === 'swirl'
        ? 'Turned by the angle about its own place; at its size away nothing moves.'
        : by === 'layers'
          ? 'Put layers into it: where they are lighter or darker than mid-grey, what lies behind is moved.'
          : 'A whole number of bends fits the frame, so that it still tiles.',
  },
})

/** Effects that it holds, as one: they act on all that lies behind, together and as strongly as it says. */
const GRADE = {} as const satisfies PropertyTable

export const grade = defineEffect({
  kind: 'grade',
  label: 'Grade',
  icon: 'sliders',
  properties: GRADE,
  heldOnly: true,
  note: { section: 'effect', text: () => 'Effects in it act on all that lies behind; other layers in it say where.' },
})
