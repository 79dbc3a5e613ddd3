/** The number at the end of a file name, before its ending; NaN where there is none. */
const numberIn = (name: string): number => Number(/(\d+)\D*$/.exec(name)?.[1] ?? Number.NaN)

/** Names of numbered pictures in the order of their numbers; those without come last, by their letters. */
export const inOrder = (names: readonly string[]): string[] =>
  [...names].sort((a, b) => {
    const first = numberIn(a)
    const second = numberIn(b)
    const unnumbered = Number(Number.isNaN(first)) - Number(Number.isNaN(second))
    return unnumbered || first - second || a.localeCompare(b, 'en', { numeric: true })
  })

/** The numbers that are left out between the first and the last of ordered names, as `3` or `7 to 9`. */
export const missingNumbers = (ordered: readonly string[]): string[] =>
  ordered.flatMap((name, i) => {
    const before = numberIn(ordered[i - 1] ?? '')
    const own = numberIn(name)
    if (!(own > before + 1)) return []
    return own > before + 2 ? [`${before + 1} to ${own - 1}`] : [String(before + 1)]
  })

const PICTURES = /\.(gif|png|apng|webp|avif|jpe?g|mp4|m4v|mov|webm)$/i
const STILLS = /\.(png|webp|jpe?g)$/i

/** Hidden files that operating systems put into folders and archives. */
const isHidden = (path: string) => path.split('/').some((part) => /^\..|^__MACOSX$/.test(part))
const folderOf = (path: string): string => path.slice(0, path.lastIndexOf('/') + 1)

/**
 * Files to read among many, such as those of a folder or an archive, by their paths: the pictures of the folder with
 * the most of them, in the order of their numbers; or the only moving picture.
 */
export function picturesAmong(paths: readonly string[]): string[] {
  const fit = paths.filter((path) => PICTURES.test(path) && !isHidden(path))
  const stills = fit.filter((path) => STILLS.test(path))
  if (stills.length < 2) return fit.slice(0, 1)
  const folders = grouped(stills)
  return inOrder([...folders.values()].reduce((most, each) => (each.length > most.length ? each : most)))
}

function grouped(paths: readonly string[]): Map<string, string[]> {
  const folders = new Map<string, string[]>()
  for (const path of paths) folders.set(folderOf(path), [...(folders.get(folderOf(path)) ?? []), path])
  return folders
}
