import { mixColours } from '../colour'
import { type Path, type Point, polygonPath } from '../path'
import { LOOKS, type TextureShape } from './looks'
import { sampled } from './noise'
import { colourAt, type Ramp } from './ramp'

export const CELL_SHAPES = ['square', 'triangle', 'hexagon'] as const
export const VIEWS = ['from above', 'slant', 'perspective'] as const

/** Cells side by side whose height, size, turn and colour follow a field, over a box in px. */
export interface LatticeSpec {
  readonly cell: (typeof CELL_SHAPES)[number]
  readonly width: number
  readonly height: number
  /** px across a cell, about: whole ones fit the box. */
  readonly size: number
  /** px between one and the next. */
  readonly gap: number
  readonly look: string
  readonly shape: TextureShape
  /**
   * Effect of the highest value of the field: px of height, the share of the size that the lowest lacks, or degrees.
   */
  readonly rise: number
  readonly shrink: number
  readonly twist: number
  readonly ramp: Ramp
  readonly view: (typeof VIEWS)[number]
  /** Degrees: from above 0, along the ground 90; and round the middle. */
  readonly tilt: number
  readonly yaw: number
}

/** A face of a cell: the top, or a side that is seen. */
export interface LatticeFace {
  readonly path: Path
  readonly colour: string
  readonly top: boolean
  /** Of a top: its middle, px from the middle of the box, how many times its size it is, and how far it is turned, radians. */
  readonly place?: { readonly x: number; readonly y: number; readonly scale: number; readonly turn: number }
}

const ROOT = Math.sqrt(3) / 2

interface Cell {
  /** Its middle, in px from the middle of the box. */
  readonly x: number
  readonly y: number
  /** Its corners about its middle, in order. */
  readonly corners: readonly Point[]
  /** Where it takes its value from the field, in shares of the tile. */
  readonly u: number
  readonly v: number
}

/** Number of cells in a box: whole numbers, even ones where rows are shifted. */
export function latticeCounts({ cell, width, height, size }: Pick<LatticeSpec, 'cell' | 'width' | 'height' | 'size'>) {
  const across = Math.max(1, Math.round(width / Math.max(1, size)))
  const rows = Math.max(1, Math.round(height / (Math.max(1, size) * (cell === 'square' ? 1 : ROOT))))
  return { across, rows: cell === 'square' ? rows : Math.max(2, 2 * Math.round(rows / 2)) }
}

/** Cells of a lattice, and those round it that are seen where it is looked at from a side. */
function cellsOf(spec: LatticeSpec): Cell[] {
  const { cell, width, height, gap } = spec
  const { across, rows } = latticeCounts(spec)
  const dx = width / across
  const dy = height / rows
  const less = Math.max(0, 1 - gap / Math.min(dx, dy))
  const beyond = spec.view === 'from above' ? 0 : Math.ceil(rows * 0.75)
  const aside = spec.view === 'from above' ? 1 : Math.ceil(across * 0.5)
  const cells: Cell[] = []
  const add = (x: number, y: number, corners: readonly Point[]) =>
    cells.push({
      x: x - width / 2,
      y: y - height / 2,
      corners: corners.map((corner) => ({ x: corner.x * less, y: corner.y * less })),
      u: x / width,
      v: y / height,
    })
  for (let row = -beyond - 1; row <= rows + beyond; row++)
    for (let column = -aside; column < across + aside; column++) {
      const y = (row + 0.5) * dy
      if (cell === 'square')
        add((column + 0.5) * dx, y, [
          { x: -dx / 2, y: -dy / 2 },
          { x: dx / 2, y: -dy / 2 },
          { x: dx / 2, y: dy / 2 },
          { x: -dx / 2, y: dy / 2 },
        ])
      else if (cell === 'hexagon') {
        const x = (column + (((row % 2) + 2) % 2 === 0 ? 0.25 : 0.75)) * dx
        const tall = (2 / 3) * dy
        add(x, y, [
          { x: 0, y: -tall },
          { x: dx / 2, y: -tall / 2 },
          { x: dx / 2, y: tall / 2 },
          { x: 0, y: tall },
          { x: -dx / 2, y: tall / 2 },
          { x: -dx / 2, y: -tall / 2 },
        ])
      } else
        for (const up of [true, false]) {
          const odd = ((row % 2) + 2) % 2
          const x = (column + (up ? 0.25 : 0.75) + (odd ? 0.5 : 0)) * dx
          const sign = up ? 1 : -1
          add(x, y + (sign * dy) / 6, [
            { x: 0, y: (-sign * 2 * dy) / 3 },
            { x: (sign * dx) / 2, y: (sign * dy) / 3 },
            { x: (-sign * dx) / 2, y: (sign * dy) / 3 },
          ])
        }
    }
  return cells
}

/** The field is sampled at this many places for each cell, each way. */
const FINER = 2
const TURN = Math.PI / 180

/** How a lattice is looked at: the direction of its camera, and where a point of the ground at a height is seen. */
interface Sighting {
  readonly cosYaw: number
  readonly sinYaw: number
  readonly seen: (x: number, y: number, height: number) => Point
}

function sightingOf({ view, tilt, yaw, width, height }: LatticeSpec): Sighting {
  const flat = view === 'from above'
  const tilted = flat ? 0 : tilt * TURN
  const turned = flat ? 0 : yaw * TURN
  const cosTilt = Math.cos(tilted)
  const sinTilt = Math.sin(tilted)
  const cosYaw = Math.cos(turned)
  const sinYaw = Math.sin(turned)
  const distance = 1.8 * Math.max(width, height)
  const seen = (x: number, y: number, h: number): Point => {
    const gx = x * cosYaw - y * sinYaw
    const gy = x * sinYaw + y * cosYaw
    const nearer = gy * sinTilt + h * cosTilt
    const scale = view === 'perspective' ? distance / Math.max(distance / 8, distance - nearer) : 1
    return { x: gx * scale, y: (gy * cosTilt - h * sinTilt) * scale }
  }
  return { cosYaw, sinYaw, seen }
}

/** The sides of a cell that face the camera, from its corners on the ground. */
function sidesOf(
  ground: readonly Point[],
  high: number,
  colour: string,
  { cosYaw, sinYaw, seen }: Sighting,
  twists: boolean,
): LatticeFace[] {
  return ground.flatMap((a, i): LatticeFace[] => {
    const b = ground[(i + 1) % ground.length]
    // Outwards, since corners run clockwise on the screen.
    const nx = b.y - a.y
    const ny = a.x - b.x
    // A side that turns away keeps its place in the list, without an area.
    if (nx * sinYaw + ny * cosYaw <= 1e-9)
      return twists ? [{ path: polygonPath([seen(a.x, a.y, 0)]), colour, top: false }] : []
    const sideways = (nx * cosYaw - ny * sinYaw) / Math.hypot(nx, ny)
    const corners = [seen(a.x, a.y, 0), seen(b.x, b.y, 0), seen(b.x, b.y, high), seen(a.x, a.y, high)]
    const shaded = mixColours(colour, '#000000', 0.32 + 0.16 * sideways)
    return [{ path: polygonPath(corners), colour: shaded, top: false }]
  })
}

/** The faces of a cell at a value of the field: its sides, then its top. */
function facesOf(cell: Cell, value: number, spec: LatticeSpec, sighting: Sighting): LatticeFace[] {
  const { cosYaw, sinYaw, seen } = sighting
  const size = 1 - spec.shrink * (1 - value)
  const turn = spec.twist * value * TURN
  const cos = Math.cos(turn) * size
  const sin = Math.sin(turn) * size
  const ground = cell.corners.map(({ x, y }) => ({ x: cell.x + x * cos - y * sin, y: cell.y + x * sin + y * cos }))
  const high = spec.rise * value
  const colour = colourAt(spec.ramp, value)
  const hasSides = spec.view !== 'from above' && spec.rise > 0
  const sides = hasSides ? sidesOf(ground, high, colour, sighting, spec.twist !== 0) : []
  const middle = seen(cell.x, cell.y, high)
  const beside = seen(cell.x + cosYaw, cell.y - sinYaw, high)
  const scale = size * Math.hypot(beside.x - middle.x, beside.y - middle.y)
  const top = ground.map(({ x, y }) => seen(x, y, high))
  return [...sides, { path: polygonPath(top), colour, top: true, place: { ...middle, scale, turn } }]
}

/**
 * The faces of a lattice at the time of its field, farthest first, in parallel or central projection: the ground is turned
 * by yaw, then tilted, and cells rise upwards.
 * @throws RangeError for an unknown look of texture
 */
export function latticeFaces(spec: LatticeSpec): LatticeFace[] {
  const { across, rows } = latticeCounts(spec)
  const look = LOOKS.find((each) => each.look === spec.look)
  if (!look) throw new RangeError(`there is no look of texture called “${spec.look}”`)
  const field = look.field(spec.shape, FINER * across, FINER * rows)
  const sighting = sightingOf(spec)
  const { cosYaw, sinYaw, seen } = sighting
  const flat = spec.view === 'from above'
  // Which cells and faces there are does not change with time, so that vectors can follow each of them.
  const cells = cellsOf(spec).filter((cell) => flat || !outside(cell, spec, seen))
  const depth = ({ x, y }: Cell) => x * sinYaw + y * cosYaw
  if (!flat) cells.sort((a, b) => depth(a) - depth(b))
  return cells.flatMap((cell) => {
    const value = sampled(field, cell.u * FINER * across, cell.v * FINER * rows)
    return facesOf(cell, Math.min(1, Math.max(0, value)), spec, sighting)
  })
}

/** Whether a cell lies wholly outside of the box, however high it stands and however it is turned. */
function outside(
  cell: Cell,
  { width, height, rise }: LatticeSpec,
  seen: (x: number, y: number, h: number) => Point,
): boolean {
  const reach = Math.max(...cell.corners.map(({ x, y }) => Math.hypot(x, y)))
  const corners = [0, rise].flatMap((h) =>
    [-reach, reach].flatMap((dx) => [-reach, reach].map((dy) => seen(cell.x + dx, cell.y + dy, h))),
  )
  const halfW = width / 2
  const halfH = height / 2
  return (
    corners.every(({ x }) => x < -halfW) ||
    corners.every(({ x }) => x > halfW) ||
    corners.every(({ y }) => y < -halfH) ||
    corners.every(({ y }) => y > halfH)
  )
}

/** How many faces a lattice is drawn of, at the most. */
export function latticeCost(spec: Pick<LatticeSpec, 'cell' | 'width' | 'height' | 'size' | 'view'>): number {
  const { across, rows } = latticeCounts(spec)
  const cells = across * rows * (spec.cell === 'triangle' ? 2 : 1)
  return spec.view === 'from above' ? cells : 3 * 5 * cells
}
