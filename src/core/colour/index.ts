import type { Oklab, Rgb } from 'culori'
import {
  converter,
  formatRgb,
  modeA98,
  modeHsl,
  modeHwb,
  modeLab,
  modeLch,
  modeLrgb,
  modeOklab,
  modeOklch,
  modeP3,
  modeProphoto,
  modeRec2020,
  modeRgb,
  modeXyz50,
  modeXyz65,
  parse,
  useMode as readMode,
} from 'culori/fn'

// The colour spaces of CSS Color 4, and no others.
for (const mode of [
  modeA98,
  modeHsl,
  modeHwb,
  modeLab,
  modeLch,
  modeLrgb,
  modeOklab,
  modeOklch,
  modeP3,
  modeProphoto,
  modeRec2020,
  modeRgb,
  modeXyz50,
  modeXyz65,
])
  readMode(mode)

const toOklab = converter('oklab')
const toRgb = converter('rgb')

type Lab = readonly [l: number, a: number, b: number, alpha: number]
const labs = new Map<string, Lab | null>()

/** A colour as its parts; undefined where the text is none. The parser fails on some that break off, such as `color(`. */
function parsed(colour: string) {
  try {
    return parse(colour)
  } catch (error) {
    if (error instanceof TypeError) return undefined
    throw error
  }
}

/** OKLab coordinates and alpha of a CSS Color 4 colour, or null where the text is none. */
export function oklabOf(colour: string): Lab | null {
  const known = labs.get(colour)
  if (known !== undefined) return known
  if (labs.size > 5000) labs.clear()
  const lab = toOklab(parsed(colour)) as Oklab | undefined
  const result: Lab | null = lab ? [lab.l, lab.a, lab.b, lab.alpha ?? 1] : null
  labs.set(colour, result)
  return result
}

export const isColour = (text: string): boolean => text.length <= 100 && oklabOf(text) !== null

/** A colour of the document by its name, written as CSS writes a custom property: `var(--lamp)`. */
export const namedColour = (name: string): string => `var(--${name})`
const NAMED = /^var\(--([a-z][a-z0-9-]{0,39})\)$/

/** The name in `var(--name)`; null where the text is a colour of its own. */
export const colourName = (text: string): string | null => NAMED.exec(text)?.[1] ?? null

const TRANSPARENT: Lab = [0, 0, 0, 0]

/** Mix of two CSS colours in OKLab, premultiplied by alpha as CSS Color 4 §12 asks; t may overshoot. */
export function mixColours(from: string, to: string, t: number): string {
  if (t === 0 || from === to) return from
  if (t === 1) return to
  const a = oklabOf(from) ?? TRANSPARENT
  const b = oklabOf(to) ?? TRANSPARENT
  const alpha = Math.min(1, Math.max(0, a[3] + (b[3] - a[3]) * t))
  const channel = (i: 0 | 1 | 2) => (alpha === 0 ? 0 : (a[i] * a[3] * (1 - t) + b[i] * b[3] * t) / alpha)
  return formatRgb({ mode: 'oklab', l: channel(0), a: channel(1), b: channel(2), alpha })
}

/** Distance of two CSS colours in OKLab, with the difference in alpha added; 1 is black to white. */
export function colourDistance(from: string, to: string): number {
  const a = oklabOf(from) ?? TRANSPARENT
  const b = oklabOf(to) ?? TRANSPARENT
  return Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]) + Math.abs(a[3] - b[3])
}

/** A CSS colour made clearer by a share, 0 … 1. */
export function withAlpha(colour: string, share: number): string {
  const [l, a, b, alpha] = oklabOf(colour) ?? TRANSPARENT
  return formatRgb({ mode: 'oklab', l, a, b, alpha: alpha * share })
}

const hexes = new Map<string, string>()

/** `#rrggbb`, or `#rrggbbaa` where it is not opaque: what canvases and colour pickers take. Black for no colour. */
export function toHex(colour: string): string {
  const known = hexes.get(colour)
  if (known) return known
  if (hexes.size > 5000) hexes.clear()
  const rgb = toRgb(parsed(colour)) as Rgb | undefined
  const hex = rgb
    ? `#${[rgb.r, rgb.g, rgb.b, rgb.alpha ?? 1].map(byte).join('')}`.replace(/^(#.{6})ff$/, '$1')
    : '#000000'
  hexes.set(colour, hex)
  return hex
}

const byte = (share: number) =>
  Math.round(Math.min(1, Math.max(0, share)) * 255)
    .toString(16)
    .padStart(2, '0')

/** Red, green, blue and alpha of a CSS colour, 0 … 255; black for no colour. */
export function bytesOf(colour: string): [red: number, green: number, blue: number, alpha: number] {
  const hex = toHex(colour)
  const part = (n: number) => Number.parseInt(hex.slice(1 + 2 * n, 3 + 2 * n), 16)
  return [part(0), part(1), part(2), hex.length > 7 ? part(3) : 255]
}
