import { toNumber } from '../clock'
import { checkMotions } from '../closing'
import type { Loop } from '../document'
import { propertyAt } from '../evaluate'
import { mixingOf, type PropertyValue } from '../layers'

const rounded = (value: PropertyValue): PropertyValue =>
  typeof value === 'number'
    ? Number(value.toFixed(6))
    : Array.isArray(value)
      ? ((value as readonly unknown[]).map((each) =>
          typeof each === 'number' ? Number(each.toFixed(6)) : each,
        ) as PropertyValue)
      : value

const secondsOf = ({ length, rate }: Pick<Loop, 'length' | 'rate'>): number => length / toNumber(rate)

/** After how many seconds a loop closes, in words, for those whose own clock drives it. */
export const closesAfter = (loop: Loop): string => {
  const open = checkMotions(loop).filter(({ home }) => !home)
  const seconds = Number(secondsOf(loop).toFixed(6))
  return open.length === 0
    ? `Closes after ${seconds} s (${loop.length} frames at ${loop.rate.num}/${loop.rate.den}): time ${seconds} is time 0 again.`
    : `Does not close after ${seconds} s: ${open.map(({ layer, property }) => `${layer.name}, ${property.label}`).join('; ')}.`
}

/**
 * The motions of a loop as data: for each its keys and eases as the document has them, and its values frame by frame, the closing frame too. JSON that
 * `docs/formats.md` describes.
 */
export function motionsAsJson(loop: Loop): string {
  const { name, length, rate } = loop
  const motions = checkMotions(loop).map(({ layer, name: property, property: described, home, gap }) => {
    const motion = layer.motions[property]
    return {
      layer: layer.name,
      layerId: layer.id,
      property,
      label: described.label,
      unit: described.moves ? mixingOf(described).unit(described) : '',
      home,
      ...(home ? {} : { gap }),
      ...(motion && { keys: motion.keys, after: motion.after, period: motion.period, phase: motion.phase }),
      values: Array.from({ length: length + 1 }, (_, n) => rounded(propertyAt(layer, property, n, length))),
    }
  })
  const about = {
    format: 'cyclon-motions',
    version: 1,
    name,
    length,
    rate,
    seconds: secondsOf(loop),
    note: closesAfter(loop),
  }
  return `${JSON.stringify({ ...about, motions }, null, 2)}\n`
}

/** A field of a CSV file (RFC 4180). What a table would take for a formula is told apart by a quote before it. */
const field = (value: unknown): string => {
  const plain = typeof value === 'object' && value !== null ? JSON.stringify(value) : String(value ?? '')
  const text = /^[=+@]/.test(plain) || /^-\D/.test(plain) ? `'${plain}` : plain
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text
}

/** The values of all motions of a loop frame by frame, the closing frame too, as CSV (RFC 4180). */
export function motionsAsCsv(loop: Loop): string {
  const { length, rate } = loop
  const motions = checkMotions(loop)
  const rows = [['frame', 'seconds', ...motions.map(({ layer, property }) => `${layer.name}: ${property.label}`)]]
  for (let n = 0; n <= length; n++) {
    const values = motions.map(({ layer, name }) => rounded(propertyAt(layer, name, n, length)))
    rows.push([String(n), String(Number((n / toNumber(rate)).toFixed(6))), ...(values as string[])])
  }
  return rows.map((row) => `${row.map(field).join(',')}\r\n`).join('')
}
