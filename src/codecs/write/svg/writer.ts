import { toHex } from '@/core/colour'
import { keysOf } from '@/core/output'
import { type Path, svgPathData } from '@/core/path'

/** Largest error of values between keys: px and degrees. */
export const SVG_TOLERANCE = 0.02
/** The same for shares, 0 … 1. */
export const NEAR_SHARE = SVG_TOLERANCE / 10

export const px = (x: number) => String(Number(x.toFixed(3)))
export const shareText = (x: number) => String(Number(x.toFixed(4)))
const time = (x: number) => String(Number(x.toFixed(6)))

/** #rrggbb, and how opaque it is. */
export const colourParts = (colour: string): [string, number] => {
  const hex = toHex(colour)
  return [hex.slice(0, 7), hex.length > 7 ? Number.parseInt(hex.slice(7), 16) / 255 : 1]
}

/** An attribute as it is at first, and the animation of it, where it changes. */
export interface Attribute {
  readonly text: string
  readonly animation: string
}
export const fixed = (text: string): Attribute => ({ text: ` ${text}`, animation: '' })

/** An element with attributes, their animations within it. */
export function element(name: string, attributes: readonly Attribute[], inner = ''): string {
  const within = `${attributes.map(({ animation }) => animation).join('')}${inner}`
  const open = `<${name}${attributes.map(({ text }) => text).join('')}`
  return within ? `${open}>${within}</${name}>` : `${open}/>`
}

/** Writes attributes that change along a loop (SMIL animation, as SVG Animations Level 2 has it), and keeps definitions. */
export class Writer {
  private ids = 0
  readonly definitions: string[] = []

  /** @param reach how far definitions reach on all sides, px */
  constructor(
    private readonly length: number,
    private readonly seconds: number,
    readonly reach: number,
  ) {}

  id(): string {
    return `i${this.ids++}`
  }

  /** A box as far as anything is drawn. */
  get everywhere(): string {
    const { reach } = this
    return `x="${-reach}" y="${-reach}" width="${2 * reach}" height="${2 * reach}"`
  }

  animate<T extends { readonly at: number }>(open: string, keys: readonly T[], value: (key: T) => string): string {
    if (keys.length < 2) return ''
    const times = keys.map(({ at }) => time(at / this.length)).join(';')
    return `${open} dur="${time(this.seconds)}s" repeatCount="indefinite" keyTimes="${times}" values="${keys.map(value).join(';')}"/>`
  }

  /** Numbers that change along straight lines. */
  numbers(
    name: string,
    series: readonly (readonly number[])[],
    text: (values: readonly number[]) => string,
    tolerance = SVG_TOLERANCE,
  ): Attribute {
    const open = `<animate attributeName="${name}"`
    return {
      text: ` ${name}="${text(series[0] as readonly number[])}"`,
      animation: this.animate(open, keysOf(series, tolerance), ({ values }) => text(values)),
    }
  }

  /** Lengths in px. */
  lengths(name: string, series: readonly number[]): Attribute {
    return this.numbers(
      name,
      series.map((value) => [value]),
      ([value = 0]) => px(value),
    )
  }

  /** Shares, 0 … 1. */
  shares(name: string, series: readonly number[]): Attribute {
    return this.numbers(
      name,
      series.map((value) => [value]),
      ([value = 0]) => shareText(value),
      NEAR_SHARE,
    )
  }

  /** A series without values in between: each holds until the next. */
  steps(name: string, series: readonly string[]): Attribute {
    const keys = series.flatMap((value, at) =>
      at < this.length && (at === 0 || value !== series[at - 1]) ? [{ at, value }] : [],
    )
    return {
      text: ` ${name}="${series[0]}"`,
      animation: this.animate(`<animate attributeName="${name}" calcMode="discrete"`, keys, ({ value }) => value),
    }
  }

  /** A path; one whose commands change goes from frame to frame in steps. */
  path(series: readonly Path[]): Attribute {
    const shape = (path: Path) => path.map(([command]) => command).join('')
    const first = series[0] as Path
    if (first.length === 0 || series.some((path) => shape(path) !== shape(first)))
      return this.steps(
        'd',
        series.map((path) => svgPathData(path) || 'M0 0'),
      )
    const numbers = series.map((path) => path.flatMap((segment) => segment.slice(1) as number[]))
    return this.numbers('d', numbers, (values) => {
      let at = 0
      const segments = first.map(([command, ...own]) => [command, ...own.map(() => values[at++])])
      return svgPathData(segments as unknown as Path)
    })
  }

  /** Colours, and how opaque they are, which is left out where they always are. */
  colours(name: string, opacityName: string, series: readonly string[]): Attribute[] {
    const parts = series.map(colourParts)
    const rgb = (hex: string) => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16))
    const hex = (values: readonly number[]) =>
      `#${values.map((value) => Math.round(value).toString(16).padStart(2, '0')).join('')}`
    const colour = this.numbers(
      name,
      parts.map(([own]) => rgb(own)),
      hex,
      0.5,
    )
    const opaque = parts.every(([, opacity]) => opacity === 1)
    return opaque
      ? [colour]
      : [
          colour,
          this.shares(
            opacityName,
            parts.map(([, opacity]) => opacity),
          ),
        ]
  }
}
