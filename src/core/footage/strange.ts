/** A value is strange that lies outside of what all frames but such a share, each way, have at its place, by so much of 255. */
const RANGE = { share: 0.04, besides: 24 }
/** A place that is strange in more frames than such a share of all is another scene, not something that passes. */
const PASSING_SHARE = 0.15

/**
 * In how many places of each frame something is seen that is there at no other time: what only passes, though it be small. Places are those of the glimpses.
 * @param beside frames that are so near that they show the same thing passing
 */
export function strangeIn(glimpses: readonly Uint8Array[], beside: number): Uint16Array {
  const count = glimpses.length
  const strange = new Uint16Array(count)
  const length = glimpses[0]?.length ?? 0
  const each = Math.floor(RANGE.share * count)
  if (each < 1) return strange
  const bins = new Uint32Array(256)
  // What a place holds in all frames, side by side: it is gone through twice.
  const values = new Uint8Array(count)
  for (let place = 0; place < length; place += 4) {
    // Green tells nearly all that is seen, and red what is as bright.
    const odd = new Set<number>()
    for (const channel of [0, 1]) {
      bins.fill(0)
      for (let n = 0; n < count; n++) {
        const value = (glimpses[n] as Uint8Array)[place + channel] as number
        values[n] = value
        bins[value] = (bins[value] as number) + 1
      }
      let [low, high] = [0, 255]
      for (let sum = bins[0] as number; sum <= each; ) sum += bins[++low] as number
      for (let sum = bins[255] as number; sum <= each; ) sum += bins[--high] as number
      const [least, most] = [low - RANGE.besides, high + RANGE.besides]
      for (let n = 0; n < count; n++) if ((values[n] as number) < least || (values[n] as number) > most) odd.add(n)
    }
    if (odd.size === 0 || odd.size > PASSING_SHARE * count) continue
    const [first, last] = [Math.min(...odd), Math.max(...odd)]
    // What comes again does not only pass.
    if (last - first <= 2 * beside) for (const n of odd) strange[n] = (strange[n] as number) + 1
  }
  return strange
}

/** Something passes in a frame that is strange in so many places, as at least so many of those about it are: a camera that shakes makes single ones strange. */
const STRANGE = { places: 2, of: 3, about: 2 }

/** Frames in which something passes that is seen at no other time. */
export function passesIn(strange: ArrayLike<number>): boolean[] {
  const is = (n: number) => (strange[n] ?? 0) >= STRANGE.places
  return Array.from({ length: strange.length }, (_, n) => {
    let some = 0
    for (let m = n - STRANGE.about; m <= n + STRANGE.about; m++) if (is(m)) some++
    return is(n) && some >= STRANGE.of
  })
}
