/** Which of some pictures is shown where: cells of a picture, row by row. */
export interface PatchMap {
  readonly across: number
  readonly down: number
  /** One sign for each cell, 0 … 9 and a … z: the number of what is shown there. */
  readonly labels: string
}

/** At most this many pictures can be told apart. */
export const MAX_PATCHES = 36

const numbers = new WeakMap<PatchMap, Uint8Array>()

/** The number of each cell. */
export function labelsOf(map: PatchMap): Uint8Array {
  const known = numbers.get(map)
  if (known) return known
  const made = Uint8Array.from(map.labels, (sign) => Number.parseInt(sign, MAX_PATCHES))
  numbers.set(map, made)
  return made
}

export const patchMap = (across: number, down: number, labels: ArrayLike<number>): PatchMap => ({
  across,
  down,
  labels: Array.from(labels, (label) => label.toString(MAX_PATCHES)).join(''),
})

/**
 * Goes through the pixels of a picture as a map cuts it: borders are soft over the width of a cell.
 * @param visit is told of each pixel how much of which picture is shown there; in all, 1
 */
export function eachPatch(
  map: PatchMap,
  width: number,
  height: number,
  visit: (pixel: number, label: number, weight: number) => void,
): void {
  const { across, down } = map
  const labels = labelsOf(map)
  for (let y = 0, p = 0; y < height; y++) {
    const cy = Math.max(0, Math.min(down - 1, ((y + 0.5) * down) / height - 0.5))
    const top = Math.floor(cy)
    const fy = cy - Math.floor(cy)
    const bottom = Math.min(down - 1, top + 1)
    for (let x = 0; x < width; x++, p++) {
      const cx = Math.max(0, Math.min(across - 1, ((x + 0.5) * across) / width - 0.5))
      const left = Math.floor(cx)
      const fx = cx - left
      const right = Math.min(across - 1, left + 1)
      const a = labels[top * across + left]
      const b = labels[top * across + right]
      const c = labels[bottom * across + left]
      const d = labels[bottom * across + right]
      if (a === b && a === c && a === d) {
        visit(p, a, 1)
        continue
      }
      const weights = [(1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy]
      for (const [k, label] of [a, b, c, d].entries()) if (weights[k] > 0) visit(p, label, weights[k])
    }
  }
}

/** At a pixel where borders are soft, several are shown. */
export const SEVERAL = 255

const shown = new WeakMap<PatchMap, { readonly width: number; readonly height: number; readonly labels: Uint8Array }>()

/** Which picture each pixel shows, or that it shows several; of the size that was asked for last it is known. */
export function shownOf(map: PatchMap, width: number, height: number): Uint8Array {
  const known = shown.get(map)
  if (known?.width === width && known.height === height) return known.labels
  const labels = new Uint8Array(width * height)
  eachPatch(map, width, height, (pixel, label, weight) => {
    labels[pixel] = weight === 1 ? label : SEVERAL
  })
  shown.set(map, { width, height, labels })
  return labels
}
