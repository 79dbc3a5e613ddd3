import { defaultFilter } from 'cmdk'
import { changeLayer, findLayer, type Layer, type Loop, places } from '@/core/document'
import { setValue } from '@/core/edit'
import { layerKind, type NumberProperty, type Property, propertyType } from '@/core/layers'
import { changeLoop, currentLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { setSession, useSession } from '@/store/session'
import { fieldUnitText, readNumber, showNumber } from '../parts/number-text'
import { COMMANDS } from '.'
import type { Command } from './command'

/** Something that typing may mean: a command, or a layer, a value or a loop that goes by that name. */
export interface Meaning {
  readonly id: string
  readonly label: string
  readonly keys?: string | undefined
  /** The page that is gone to, where it is one. */
  readonly href?: string
  readonly run: Command['run']
}

/** A loop of the library. */
export interface Named {
  readonly id: string
  readonly name: string
}

/** Amount after a name: a number or a sum with its unit. */
const BEHIND = /^(.*?\D)\s+([-+−]?[\d.,(][\d.,()+\-−*/\s]*[a-z%°×]*)$/i
/** At most this many layers and loops are listed. */
const MAX_NAMED = 8

const scoreOf = (label: string, typed: string, also: readonly string[] = []): number =>
  defaultFilter?.(label, typed, [...also]) ?? 0

/** A number behind a name, read in a unit; null where there is none. */
function amountIn(text: string | undefined, unit: Parameters<typeof readNumber>[1], loop: Loop | null): number | null {
  if (text === undefined) return null
  try {
    return readNumber(text, unit, loop ?? { rate: { num: 1, den: 1 }, length: 1 })
  } catch {
    return null
  }
}

/**
 * Meanings of the typed text, the likeliest first: commands, with an amount typed after them; properties of the
 * selection, with a value; layers; other loops.
 */
export function meant(typed: string, library: readonly Named[] = []): Meaning[] {
  const loop = currentLoop()
  const [, name = typed, behind] = BEHIND.exec(typed) ?? []
  const scored: { readonly item: Meaning; readonly score: number }[] = []
  for (const command of COMMANDS) {
    const { id, label, section, keys, amount, run } = command
    if (id === 'commands') continue
    const given = amount ? amountIn(behind, amount.unit, loop) : null
    const score = scoreOf(label, given === null ? typed : name, [section])
    const said =
      given === null || !amount ? label : `${label}: ${showNumber(given, amount.unit)} ${fieldUnitText(amount.unit)}`
    scored.push({ item: { id, label: said, keys, run: (go) => run(go, given ?? undefined) }, score })
  }
  if (loop) scored.push(...propertiesMeant(loop, name, behind), ...layersMeant(loop, typed))
  scored.push(...loopsMeant(library, typed, loop?.id))
  return scored
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score)
    .map(({ item }) => item)
}

const isNumber = (property: Property): property is NumberProperty => property.type === 'number'

/** Properties that all selected layers have, set to a number that is typed behind, or shown. */
function propertiesMeant(loop: Loop, name: string, behind: string | undefined) {
  const ids = useSession.getState().selection
  const layers = ids.flatMap((id) => findLayer(loop, id) ?? [])
  const [first, ...others] = layers
  if (!first) return []
  const shared = Object.entries(layerKind(first.kind).properties).filter(([key, property]) =>
    others.every(({ kind }) => layerKind(kind).properties[key]?.type === property.type),
  )
  return shared.flatMap(([key, property]) => {
    const score = scoreOf(property.label, name, [key])
    if (score === 0) return []
    const given = isNumber(property) ? amountIn(behind, property.unit, loop) : null
    if (behind !== undefined && given === null) return []
    if (given === null || !isNumber(property))
      return [
        {
          item: { id: `show ${key}`, label: `Show ${property.label}`, run: () => showProperty(first, key, property) },
          score: 0.8 * score,
        },
      ]
    const words = `${showNumber(given, property.unit)} ${fieldUnitText(property.unit)}`.trim()
    return [
      {
        item: { id: `set ${key}`, label: `Set ${property.label} to ${words}`, run: () => setAll(ids, key, given) },
        // Who types a number behind a name means that.
        score: score + 0.5,
      },
    ]
  })
}

/** Shows the motion of a property where it has one, or puts the cursor into its field. */
function showProperty(layer: Layer, key: string, property: Property): void {
  if (propertyType(property).mixing && key in layer.motions) {
    setSession({ property: key })
    return
  }
  setSession({ sought: '' })
  // Once the list has given the focus back.
  setTimeout(() => {
    const field = document.querySelector<HTMLElement>(
      `[aria-label="Properties"] [data-property="${key}"] :is(input, select, button)`,
    )
    // A folded property is unfolded by searching for it.
    if (!field?.checkVisibility()) setSession({ sought: property.label })
    field?.scrollIntoView({ block: 'nearest' })
    field?.focus()
  }, 50)
}

const setAll = (ids: readonly string[], key: string, value: number): void => {
  const now = frameNow()
  changeLoop((loop) =>
    ids.reduce((made, id) => changeLayer(made, id, (layer) => setValue(layer, key, value, now, made.length)), loop),
  )
}

/** Those of some that go by what was typed, the likeliest first. */
const named = (all: readonly Named[], verb: string, typed: string) =>
  all
    .map(({ id, name }) => ({ id, name, score: scoreOf(name, typed, [`${verb} ${name}`]) }))
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score)
    .slice(0, MAX_NAMED)

/** Other loops of the library that go by what was typed. */
const loopsMeant = (library: readonly Named[], typed: string, open: string | undefined) =>
  named(
    library.filter(({ id }) => id !== open),
    'open',
    typed,
  ).map(({ id, name, score }) => ({
    item: { id: `open ${id}`, label: `Open “${name}”`, href: `/loop/${id}/compose`, run: () => {} },
    score: 0.85 * score,
  }))

/** Layers that go by what was typed. */
function layersMeant(loop: Loop, typed: string) {
  return named(
    [...places(loop.layers)].map(({ layer }) => layer),
    'select',
    typed,
  ).map(({ id, name, score }) => ({
    item: {
      id: `select ${id}`,
      label: `Select “${name}”`,
      run: () => setSession({ selection: [id], property: null }),
    },
    score: 0.9 * score,
  }))
}
