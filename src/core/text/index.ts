import { type Path, type PathSegment, pathOf, transformPath } from '../path'
import { type Face, type FaceName, faceCalled } from './faces'

export { FACES, type FaceName, facesAreHere, loadFaces } from './faces'

export const ALIGNMENTS = ['left', 'centre', 'right'] as const

/** How text is set. */
export interface Setting {
  readonly face: FaceName
  /** Height of the em, px. */
  readonly size: number
  readonly align: (typeof ALIGNMENTS)[number]
  /** From one line to the next, in ems. */
  readonly lineHeight: number
  /** Added between characters, in ems. */
  readonly spacing: number
}

const MISSING = '?'

/** The characters of a text that a face does not have; they are set as question marks. @throws Error before the face is here */
export const missingCharacters = (text: string, face: FaceName): string[] => [
  ...new Set([...text].filter((char) => char !== '\n' && !Object.hasOwn(faceCalled(face).glyphs, char))),
]

/**
 * The outlines of a text in a shipped face, in px, about the middle of the block: across by its widest line, down
 * from the ascender of the first line to the descender of the last.
 * @throws Error before the face is here
 */
export function textPath(text: string, { face: name, size, align, lineHeight, spacing }: Setting): Path {
  const face = faceCalled(name)
  const scale = size / face.unitsPerEm
  const lines = text.split('\n').map((line) => setLine(line, face, spacing))
  const widest = Math.max(0, ...lines.map(({ width }) => width))
  const leading = lineHeight * face.unitsPerEm
  const height = face.ascender - face.descender + (lines.length - 1) * leading
  const path: PathSegment[] = []
  for (const [row, { width, glyphs }] of lines.entries()) {
    const room = widest - width
    const left = -widest / 2 + (align === 'left' ? 0 : align === 'right' ? room : room / 2)
    const baseline = -height / 2 + face.ascender + row * leading
    for (const { outline, x } of glyphs)
      path.push(...transformPath(pathOf(outline), [scale, 0, 0, scale, (left + x) * scale, baseline * scale]))
  }
  return path
}

function setLine(line: string, face: Face, spacing: number) {
  const glyphs: { outline: string; x: number }[] = []
  let x = 0
  let previous = ''
  for (const char of line) {
    const [advance, outline] = face.glyphs[char] ?? face.glyphs[MISSING] ?? [0, '']
    x += face.kerning[previous + char] ?? 0
    glyphs.push({ outline, x })
    x += advance + spacing * face.unitsPerEm
    previous = char
  }
  return { glyphs, width: Math.max(0, x - (glyphs.length > 0 ? spacing * face.unitsPerEm : 0)) }
}
