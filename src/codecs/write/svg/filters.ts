import type { Filter } from '@/core/display'
import { type Attribute, element, fixed, type Writer } from './writer'

type Named<N extends Filter['name']> = Filter & { readonly name: N }

type Amount = Extract<Filter, { amount: number }>

/** One filter along the loop; null in those frames that do not have it. */
function primitive(writer: Writer, series: readonly (Filter | null)[]): string {
  const filter = series.find((each) => each !== null) as Filter
  const along = <F extends Filter>(of: (own: F) => number, rest: number) =>
    series.map((own) => (own ? of(own as F) : rest))
  const amount = (name: string) =>
    writer.shares(
      name,
      along((own: Amount) => own.amount, 1),
    )
  switch (filter.name) {
    case 'blur':
      return element('feGaussianBlur', [
        writer.lengths(
          'stdDeviation',
          along((own: Named<'blur'>) => own.radius, 0),
        ),
      ])
    case 'drop-shadow': {
      const length = (name: string, of: (own: Named<'drop-shadow'>) => number) => writer.lengths(name, along(of, 0))
      const colours = series.map((own) => (own ? (own as Named<'drop-shadow'>).colour : 'transparent'))
      return element('feDropShadow', [
        length('dx', ({ x }) => x),
        length('dy', ({ y }) => y),
        length('stdDeviation', ({ blur }) => blur),
        ...writer.colours('flood-color', 'flood-opacity', colours),
      ])
    }
    case 'hue-rotate': {
      const turn = writer.lengths(
        'values',
        along((own: Named<'hue-rotate'>) => own.degrees, 0),
      )
      return element('feColorMatrix', [fixed('type="hueRotate"'), turn])
    }
    case 'saturate':
      return element('feColorMatrix', [fixed('type="saturate"'), amount('values')])
    default: {
      // Filter Effects 1, § 13: contrast leaves mid-grey where it is.
      const intercept = along((own: Amount) => (own.name === 'contrast' ? (1 - own.amount) / 2 : 0), 0)
      const parts: Attribute[] = [fixed('type="linear"'), amount('slope'), writer.shares('intercept', intercept)]
      return `<feComponentTransfer>${['feFuncR', 'feFuncG', 'feFuncB'].map((name) => element(name, parts)).join('')}</feComponentTransfer>`
    }
  }
}

/** The filters of a drawing as SVG filter primitives, one after the other; the id of them, or null where it has none. */
export function filter(writer: Writer, series: readonly (readonly Filter[])[]): string | null {
  const longest = series.reduce((best, each) => (each.length > best.length ? each : best), [])
  if (longest.length === 0) return null
  const primitives = longest.map(({ name }, i) => {
    // Glow and shadow are both shadows, in this order: which of them one is follows from how many there are.
    const nth = longest.slice(0, i).filter((each) => each.name === name).length
    const own = series.map((filters) => filters.filter((each) => each.name === name)[nth] ?? null)
    return primitive(writer, own)
  })
  const id = writer.id()
  writer.definitions.push(
    `<filter id="${id}" filterUnits="userSpaceOnUse" ${writer.everywhere} color-interpolation-filters="sRGB">${primitives.join('')}</filter>`,
  )
  return id
}
