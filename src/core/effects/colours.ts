import { LUMA, luma, type Picture } from '../image'

/** Result for each value of a channel, 0 … 255. */
export type Channel = Uint8ClampedArray

/** A table of a channel from a function of shares, 0 … 1. */
export const channelOf = (change: (share: number) => number): Channel =>
  Uint8ClampedArray.from({ length: 256 }, (_, value) => 255 * change(value / 255))

/** A picture with its red, green and blue put through tables; alpha stays. */
export function throughChannels(picture: Picture, red: Channel, green: Channel, blue: Channel): Picture {
  const { width, height } = picture
  const data = new Uint8ClampedArray(picture.data)
  for (let i = 0; i < data.length; i += 4) {
    data[i] = red[data[i]]
    data[i + 1] = green[data[i + 1]]
    data[i + 2] = blue[data[i + 2]]
  }
  return { width, height, data }
}

export interface Levels {
  /** Shares of full brightness that become black and white. */
  readonly black: number
  readonly white: number
  /** Over 1 lightens what lies between. */
  readonly gamma: number
  /** Result for black and for white. */
  readonly toBlack: number
  readonly toWhite: number
}

/** Levels: what lies between black and white is spread over what they become, bent by gamma. */
export function levelsTable(picture: Picture, { black, white, gamma, toBlack, toWhite }: Levels): Picture {
  const span = Math.max(1 / 255, Math.abs(white - black)) * (white < black ? -1 : 1)
  const table = channelOf((value) => {
    const between = Math.min(1, Math.max(0, (value - black) / span))
    return toBlack + (toWhite - toBlack) * between ** (1 / gamma)
  })
  return throughChannels(picture, table, table, table)
}

/** How bright a pixel is, 0 … 255. */
export const lumaAt = (data: Uint8ClampedArray, i: number): number => luma(data[i], data[i + 1], data[i + 2])

/** How far the whole of temperature and of tint changes a channel, as an exponent of two in linear light. */
const WARMTH_STOPS = 0.5
const TINT_STOPS = 0.35
const GAMMA = 2.2

/**
 * White balance: gains of red and blue against each other (temperature, −1 cold … 1 warm) and of green against both (tint, −1
 * green … 1 magenta), with the brightness of grey kept.
 */
export function balanced(picture: Picture, temperature: number, tint: number): Picture {
  const stops = [
    WARMTH_STOPS * temperature + (TINT_STOPS * tint) / 2,
    (-TINT_STOPS * tint) / 2,
    -WARMTH_STOPS * temperature + (TINT_STOPS * tint) / 2,
  ]
  const gains = stops.map((stop) => 2 ** stop)
  const grey = gains.reduce((sum, gain, c) => sum + gain * (LUMA[c] as number), 0)
  const [red, green, blue] = gains.map((gain) => {
    const encoded = (gain / grey) ** (1 / GAMMA)
    return channelOf((value) => value * encoded)
  }) as [Channel, Channel, Channel]
  return throughChannels(picture, red, green, blue)
}

/** A picture of two colours: which one by brightness against a level, with a soft way between. */
export function thresholded(
  picture: Picture,
  level: number,
  softness: number,
  words: readonly [dark: readonly number[], light: readonly number[]],
): Picture {
  const { width, height } = picture
  const data = new Uint8ClampedArray(picture.data)
  const [dark, light] = words
  const half = Math.max(0.5, 127.5 * softness)
  for (let i = 0; i < data.length; i += 4) {
    const share = Math.min(1, Math.max(0, (lumaAt(data, i) - 255 * level) / (2 * half) + 0.5))
    for (let c = 0; c < 3; c++) data[i + c] = dark[c] * (1 - share) + light[c] * share
    data[i + 3] = (data[i + 3] * (dark[3] * (1 - share) + light[3] * share)) / 255
  }
  return { width, height, data }
}

/** A picture whose brightness is a place in a row of 256 colours of four bytes; its alpha multiplies theirs. */
export function gradientMapped(picture: Picture, colours: Uint8ClampedArray): Picture {
  const { width, height } = picture
  const data = new Uint8ClampedArray(picture.data)
  for (let i = 0; i < data.length; i += 4) {
    const at = 4 * Math.round(lumaAt(data, i))
    data[i] = colours[at]
    data[i + 1] = colours[at + 1]
    data[i + 2] = colours[at + 2]
    data[i + 3] = (data[i + 3] * colours[at + 3]) / 255
  }
  return { width, height, data }
}

export interface HueRange {
  /** Degrees: the middle of the range and how much of the ring it takes; 360 is all of it. */
  readonly hue: number
  readonly width: number
  /** How far it fades at both ends, degrees. */
  readonly softness: number
  /** Degrees by which hues are turned. */
  readonly turn: number
  /** Times as saturated. */
  readonly saturation: number
  /** −1 black … 1 white. */
  readonly lightness: number
}

/** Hue (degrees), saturation and lightness of a range of hues are changed (HSL of CSS Color 4); greys belong to no hue. */
export function hueRange(picture: Picture, range: HueRange): Picture {
  const { width, height } = picture
  const data = new Uint8ClampedArray(picture.data)
  const all = range.width >= 360
  for (let i = 0; i < data.length; i += 4) {
    const r = data[i]
    const g = data[i + 1]
    const b = data[i + 2]
    const most = Math.max(r, g, b)
    const least = Math.min(r, g, b)
    const chroma = most - least
    let hue = 0
    if (chroma > 0)
      hue = 60 * (most === r ? (((g - b) / chroma) % 6) + 6 : most === g ? (b - r) / chroma + 2 : (r - g) / chroma + 4)
    const share = all ? 1 : chroma === 0 ? 0 : belongs(hue, range)
    if (share === 0) continue
    // In HSL, at one lightness, all channels keep their order about the middle of the greatest and the least.
    const middle = (most + least) / 2
    const reach = 127.5 - Math.abs(middle - 127.5)
    const saturation = reach > 0 ? chroma / 2 / reach : 0
    const target = Math.min(1, Math.max(0, saturation * (1 + (range.saturation - 1) * share)))
    const lift = range.lightness * share
    const light = lift > 0 ? middle + (255 - middle) * lift : middle * (1 + lift)
    const half = (127.5 - Math.abs(light - 127.5)) * target
    const turned = (((hue + range.turn * share) % 360) + 360) % 360
    for (let c = 0; c < 3; c++) data[i + c] = light + half * waveOfHue(turned - 120 * c)
  }
  return { width, height, data }
}

/** How much of a hue belongs to a range, 0 … 1. */
function belongs(hue: number, { hue: middle, width, softness }: HueRange): number {
  const away = Math.abs(((((hue - middle + 180) % 360) + 360) % 360) - 180)
  const over = away - width / 2
  if (over <= 0) return 1
  return softness <= 0 || over >= softness ? 0 : 1 - over / softness
}

/** A channel's way round the ring of hues, −1 … 1: 1 within 60° of its own hue, −1 within 60° of the opposite one. */
function waveOfHue(degrees: number): number {
  const away = Math.abs(((((degrees + 180) % 360) + 360) % 360) - 180)
  return Math.min(1, Math.max(-1, 3 - away / 30))
}
