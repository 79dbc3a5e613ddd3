import { readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import opentype, { type Font } from 'opentype.js'

/** Writes the outlines of the shipped faces to src/core/text: what text layers are drawn from, alike everywhere. */
const require = createRequire(import.meta.url)
const FACES = {
  regular: ['@fontsource/figtree', 'figtree', 400],
  bold: ['@fontsource/figtree', 'figtree', 700],
  mono: ['@fontsource/jetbrains-mono', 'jetbrains-mono', 500],
} as const

const load = (name: string, stem: string, subset: string, weight: number): Font => {
  const file = require.resolve(`${name}/files/${stem}-${subset}-${weight}-normal.woff`)
  const bytes = readFileSync(file)
  return opentype.parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength))
}

for (const [face, [name, stem, weight]] of Object.entries(FACES)) {
  const fonts = ['latin', 'latin-ext'].map((subset) => load(name, stem, subset, weight))
  const [latin] = fonts as [Font]
  const glyphs: Record<string, [number, string]> = {}
  for (const font of fonts)
    for (let code = 0x20; code < 0x2213; code++) {
      const char = String.fromCodePoint(code)
      const glyph = font.charToGlyph(char)
      if (glyph.index === 0 || glyphs[char]) continue
      const path = glyph.getPath(0, 0, font.unitsPerEm)
      glyphs[char] = [glyph.advanceWidth ?? 0, path.toPathData(0)]
    }
  const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz.,']
  const kerning: Record<string, number> = {}
  for (const a of letters)
    for (const b of letters) {
      const by = latin.getKerningValue(latin.charToGlyph(a), latin.charToGlyph(b))
      if (by) kerning[a + b] = by
    }
  const { unitsPerEm, ascender, descender } = latin
  writeFileSync(
    `src/core/text/${face}.json`,
    `${JSON.stringify({ unitsPerEm, ascender, descender, glyphs, kerning })}\n`,
  )
}
