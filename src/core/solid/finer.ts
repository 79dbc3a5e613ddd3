/** Triangles as three corners each, x, y, z of their places and of their normals one after the other. */
export interface Corners {
  readonly positions: Float32Array
  readonly normals: Float32Array
}

/** Rounds of splitting: each halves what is too long. */
const MAX_ROUNDS = 6

/**
 * The same surface in triangles with no side longer than `longest`, within a number of triangles. A side that is too
 * long is split in its middle; both triangles at it decide alike, so no gaps arise.
 */
export function finer(corners: Corners, longest: number, most: number): Corners {
  let current = corners
  for (let round = 0; round < MAX_ROUNDS; round++) {
    const next = split(current, longest)
    if (next === current || next.positions.length / 9 > most) break
    current = next
  }
  return current
}

function split(corners: Corners, longest: number): Corners {
  const { positions, normals } = corners
  const out: { positions: number[]; normals: number[] } = { positions: [], normals: [] }
  let any = false
  /** A corner, or the middle between two of them: its six numbers. */
  const at = (a: number, b = a): number[] => {
    const mixed: number[] = []
    for (const from of [positions, normals])
      for (let k = 0; k < 3; k++) mixed.push((from[3 * a + k] + from[3 * b + k]) / 2)
    const length = Math.hypot(mixed[3], mixed[4], mixed[5])
    if (length > 0) for (let k = 3; k < 6; k++) mixed[k] /= length
    return mixed
  }
  const long = (a: number, b: number): boolean => {
    let square = 0
    for (let k = 0; k < 3; k++) square += (positions[3 * a + k] - positions[3 * b + k]) ** 2
    return square > longest * longest
  }
  const lay = (...three: readonly (readonly number[])[]) => {
    for (const corner of three) {
      out.positions.push(...corner.slice(0, 3))
      out.normals.push(...corner.slice(3))
    }
  }
  for (let t = 0; t < positions.length / 9; t++) {
    const own = [3 * t, 3 * t + 1, 3 * t + 2] as [number, number, number]
    const sides = [long(own[0], own[1]), long(own[1], own[2]), long(own[2], own[0])]
    const count = sides.filter(Boolean).length
    if (count > 0) any = true
    // Turned so that the sides to be split come first.
    const first = count === 1 ? sides.indexOf(true) : count === 2 ? (sides.indexOf(false) + 1) % 3 : 0
    const [a, b, c] = [own[first], own[(first + 1) % 3], own[(first + 2) % 3]] as [number, number, number]
    const A = at(a)
    const B = at(b)
    const C = at(c)
    if (count === 0) lay(A, B, C)
    else if (count === 1) {
      const ab = at(a, b)
      lay(A, ab, C)
      lay(ab, B, C)
    } else if (count === 2) {
      const ab = at(a, b)
      const bc = at(b, c)
      lay(ab, B, bc)
      lay(A, ab, C)
      lay(ab, bc, C)
    } else {
      const ab = at(a, b)
      const bc = at(b, c)
      const ca = at(c, a)
      lay(A, ab, ca)
      lay(ab, B, bc)
      lay(ca, bc, C)
      lay(ab, bc, ca)
    }
  }
  return any ? { positions: Float32Array.from(out.positions), normals: Float32Array.from(out.normals) } : corners
}
