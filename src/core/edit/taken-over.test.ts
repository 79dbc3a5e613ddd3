import { describe, expect, it } from 'vitest'
import { checkMotions } from '../closing'
import { formatLoop, type Layer, type Loop, parseLoop } from '../document'
import { valuesAt } from '../evaluate'
import { quay } from '../testing/quay'
import { groupLayers, likeThese, newLayer, takeMove, withMotionsOf, withStyleOf } from '.'

const lamp = newLayer('ellipse', 'Lamp', {
  x: 50,
  y: 60,
  width: 40,
  height: 40,
  fill: '#f6b84b',
  glowColour: '#f6b84b',
  rotation: 3,
})
const board = newLayer('rectangle', 'Board', { x: 150, y: 90, width: 70, height: 20, fill: '#15485a' })
const held = (...layers: Layer[]): Loop => ({ ...quay, layers })
const moved = (name: string): Layer => takeMove(held(lamp), [lamp.id], { name }).layers[0] as Layer

describe('a layer takes over', () => {
  it('how another looks, and nothing of where it is or what it is', () => {
    const painted = withStyleOf(board, lamp)
    expect(painted.values).toMatchObject({ fill: '#f6b84b', glowColour: '#f6b84b', x: 150, width: 70, rotation: 0 })
    expect(painted.kind).toBe('rectangle')
    expect(withStyleOf(board, board)).toEqual(board)
    // A group has no fill to take.
    expect(withStyleOf(newLayer('group', 'Raft'), lamp).values).not.toHaveProperty('fill')
  })
  it('how another moves, from where it stands, and comes home as that does', () => {
    for (const name of ['bob', 'bounce', 'orbit', 'breathe', 'turn', 'blink', 'shimmer']) {
      const source = moved(name)
      const made = withMotionsOf(board, source)
      for (const frame of [0, 7, 19]) {
        const own = valuesAt(made, frame, quay.length)
        const theirs = valuesAt(source, frame, quay.length)
        for (const [at, place] of [
          ['x', 100],
          ['y', 30],
        ] as const)
          expect(Number(own[at]) - Number(theirs[at]), `${name} ${at}`).toBeCloseTo(place)
        expect(own.opacity).toBe(theirs.opacity)
      }
      expect(checkMotions(held(made)).every(({ home }) => home)).toBe(true)
      expect(parseLoop(formatLoop(held(made))).layers).toEqual([made])
    }
  })
  it('only motions that both have, and keeps its own others', () => {
    const turning = { ...board, motions: moved('turn').motions }
    expect(Object.keys(withMotionsOf(turning, moved('bob')).motions).sort()).toEqual(['rotation', 'y'])
    const chasing = takeMove(held({ ...lamp, values: { ...lamp.values, stroke: '#ffffff' } }), [lamp.id], {
      name: 'chase',
    }).layers[0] as Layer
    expect(Object.keys(withMotionsOf(newLayer('group', 'Raft'), chasing).motions)).toEqual(['rotation'])
  })
})

describe('layers that are like some', () => {
  const other = newLayer('ellipse', 'Buoy', { fill: '#ef7f5f' })
  const twin = newLayer('ellipse', 'Twin', { fill: '#f6b84b' })
  const loop = groupLayers(held(lamp, board, other, { ...twin, motions: moved('bob').motions }), [other.id], 0, 'raft')
  const names = (by: 'kind' | 'colour' | 'motion', ...ids: string[]) => {
    const found = likeThese(loop, ids, by)
    return [lamp, board, other, twin].filter(({ id }) => found.includes(id)).map(({ name }) => name)
  }
  it('are found in groups, too, by kind, colour, or what moves in them', () => {
    expect(names('kind', lamp.id)).toEqual(['Lamp', 'Buoy', 'Twin'])
    expect(names('colour', lamp.id)).toEqual(['Lamp', 'Twin'])
    expect(names('motion', twin.id)).toEqual(['Twin'])
    expect(names('motion', lamp.id)).toEqual(['Lamp', 'Board', 'Buoy'])
    expect(names('kind', lamp.id, board.id)).toHaveLength(4)
    expect(names('kind')).toEqual([])
  })
})
