import { changeAllTimes, repeatLoop, stretchLoop } from '../closing'
import type { Layer, Loop, VariantChange, VariantOf } from '../document'
import { newId } from '../id'
import { layerKind } from '../layers'
import { movedPhase, periodFrames, reversed } from '../motion'

export const NO_CHANGE: VariantChange = { palette: {}, faster: 1, longer: 1, reversed: false, phase: 0 }

/** A loop that begins a share of itself later: at frame n it shows what it showed at n + share·N. */
export function shiftPhase(loop: Loop, share: number): Loop {
  if (share === 0) return loop
  const { length } = loop
  const on = (phase: number, cycles: number) => {
    const moved = phase + cycles * share
    return moved - Math.floor(moved)
  }
  return changeAllTimes(loop, {
    motion: (motion) => movedPhase(motion, motion.phase + (length / periodFrames(motion.period, length)) * share),
    tremble: (each) => ({ ...each, phase: on(each.phase, each.cycles) }),
    event: (each) => ({ ...each, at: each.at.map((place) => on(place, -each.cycles)) }),
  })
}

/** Copies of which each is as much behind as it was ahead: seen backwards, the last comes first. */
const turnStagger = (layer: Layer): Layer => ({
  ...layer,
  values: layerKind(layer.kind).repeats?.backwards(layer.values) ?? layer.values,
  ...(layer.layers ? { layers: layer.layers.map(turnStagger) } : {}),
})

/** A loop that runs backwards. */
export function reverseLoop(loop: Loop): Loop {
  const { length } = loop
  const turned = changeAllTimes(loop, {
    motion: reversed,
    tremble: ({ backwards, phase, ...each }) => ({
      ...each,
      phase: phase > 0 ? 1 - phase : 0,
      ...(backwards ? {} : { backwards: true }),
    }),
    event: (event) => {
      const share = (event.frames * event.cycles) / length
      const turned = event.at.map((place) => 1 - place - share)
      return { ...event, at: turned.map((place) => place - Math.floor(place)) }
    },
  })
  return { ...turned, layers: turned.layers.map(turnStagger) }
}

/** A loop whose motions all run the given number of times as fast: more cycles in the same length. */
export const fasterLoop = (loop: Loop, times: number): Loop =>
  times === 1 ? loop : { ...stretchLoop({ ...repeatLoop(loop, times) }, loop.length) }

/** The loop as a variant shows it: other colours, faster or longer, backwards, later. */
function applyVariant(source: Loop, change: VariantChange): Loop {
  const { palette, faster, longer, phase } = change
  const coloured = {
    ...source,
    palette: source.palette.map((each) => ({ ...each, colour: palette[each.name] ?? each.colour })),
  }
  const timed = stretchLoop(fasterLoop(coloured, faster), source.length * longer)
  return shiftPhase(change.reversed ? reverseLoop(timed) : timed, phase)
}

/** A new loop that follows another one, with changes of its own. */
export function makeVariant(source: Loop, name: string, change: VariantChange, id = newId()): Loop {
  return { ...applyVariant(source, change), id, name, variantOf: { id: source.id, ...change } }
}

/** A variant as its source is now: it keeps its own id, name and changes. */
export function followSource(variant: Loop, source: Loop): Loop {
  const { variantOf } = variant
  return variantOf ? { ...applyVariant(source, variantOf), id: variant.id, name: variant.name, variantOf } : variant
}

/** A variant that no longer follows its source. */
export function partVariant(variant: Loop): Loop {
  const { variantOf: _source, ...own } = variant
  return own
}

/** Words for the changes of a variant: `2× as fast, backwards, from 25 %`. */
export function changeWords({ palette, faster, longer, reversed: back, phase }: VariantChange | VariantOf): string {
  const words = [
    Object.keys(palette).length > 0 ? 'other colours' : '',
    faster > 1 ? `${faster}× as fast` : '',
    longer > 1 ? `${longer}× as slow` : '',
    back ? 'backwards' : '',
    phase > 0 ? `from ${Number((100 * phase).toFixed(1))} %` : '',
  ].filter(Boolean)
  return words.length > 0 ? words.join(', ') : 'as its source'
}
