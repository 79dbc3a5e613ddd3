/** Placeholders that a pattern may name. */
export const NAME_PARTS = ['loop', 'format', 'size', 'width', 'height', 'rate', 'frames'] as const
export type NameParts = Readonly<Record<(typeof NAME_PARTS)[number], string>>
export const PLAIN_PATTERN = '{loop}-{width}x{height}'

/** Letters, digits and marks that every system takes in the name of a file. */
const sound = (text: string): string =>
  text
    .trim()
    .toLowerCase()
    .replace(/[^\p{L}\p{N}._-]+/gu, '-')
    .replace(/^[-.]+|[-.]+$/g, '') || 'loop'

/** The name that a pattern such as `{loop}-{size}` gives; what it does not know stays as it is. */
export const namedBy = (pattern: string, parts: NameParts): string =>
  sound(
    pattern.replace(/\{(\w+)\}/g, (whole, part: string) => (part in parts ? parts[part as keyof NameParts] : whole)),
  )

/** Names with a number behind those that would come twice, whatever their case. */
export function distinctNames(names: readonly string[], endings: readonly string[]): string[] {
  const taken = new Set<string>()
  return names.map((name, i) => {
    const full = (number: number) => `${number > 1 ? `${name}-${number}` : name}${endings[i]}`
    let number = 1
    while (taken.has(full(number).toLowerCase())) number++
    taken.add(full(number).toLowerCase())
    return full(number)
  })
}
