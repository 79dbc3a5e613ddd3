/** A unit in which property values are stored. */
export interface UnitOf {
  /** The largest gap at the seam that no eye sees. */
  readonly threshold: number
  /** As it stands behind a number in a sentence. */
  readonly text: string
  /** How far a new motion without travel goes and comes back. */
  readonly swing: number
  /** How far the last of several copies is from the first when that is begun. */
  readonly spread: number
  /** How far a recording may be off when keys are taken out of it, to begin with. */
  readonly slack: number
}

/** `share` is a part of a whole, 1 being all of it. */
export const UNITS = {
  px: { threshold: 0.05, text: ' px', swing: 40, spread: 20, slack: 2 },
  '°': { threshold: 0.05, text: '°', swing: 30, spread: 45, slack: 1 },
  share: { threshold: 1 / 512, text: '', swing: 0.5, spread: -0.5, slack: 0.01 },
  '×': { threshold: 1 / 512, text: '×', swing: 0.25, spread: -0.5, slack: 0.01 },
  links: { threshold: 1 / 512, text: ' links', swing: 1, spread: 1, slack: 0.02 },
  tiles: { threshold: 1 / 4096, text: ' tiles', swing: 1, spread: 1, slack: 0.01 },
  places: { threshold: 1 / 512, text: ' places', swing: 1, spread: 1, slack: 0.02 },
  cycles: { threshold: 1e-4, text: ' cycles', swing: 0.5, spread: 0.5, slack: 0.01 },
  '': { threshold: 1e-6, text: '', swing: 1, spread: 1, slack: 0.5 },
} as const satisfies Record<string, UnitOf>

export type Unit = keyof typeof UNITS

/** An amount in words: `10°`, `12.5 px`; a share of a whole as per cent. */
export const amountText = (amount: number, unit: Unit): string =>
  unit === 'share' ? `${Number((100 * amount).toFixed(2))} %` : `${Number(amount.toFixed(3))}${UNITS[unit].text}`
