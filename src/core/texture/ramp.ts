import { mixColours } from '../colour'

/** Colours from the least value to the greatest. */
export interface Ramp {
  readonly from: string
  readonly to: string
  readonly stops: readonly { readonly at: number; readonly colour: string }[]
}

/** The colour of a value, 0 … 1. */
export function colourAt({ from, to, stops }: Ramp, value: number): string {
  const all = [{ at: 0, colour: from }, ...[...stops].sort((a, b) => a.at - b.at), { at: 1, colour: to }]
  let i = 0
  while (i + 2 < all.length && value > (all[i + 1]?.at ?? 1)) i++
  const [a, b] = [all[i], all[i + 1]] as [(typeof all)[number], (typeof all)[number]]
  const share = b.at > a.at ? Math.min(1, Math.max(0, (value - a.at) / (b.at - a.at))) : 1
  return mixColours(a.colour, b.colour, share)
}
