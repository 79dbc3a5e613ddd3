import { lottieOf, svgOf } from '@/codecs/write'
import { parseLoop } from '@/core/loop'
import { PLAIN_SETTINGS, type VectorFormat } from '@/core/output'
import { BrowserRenderer } from '@/render/browser'
import { proveVector } from '@/workers/read-vector'

type Json = Record<string, unknown>
/** A vector file with a fault in it: too slow, cut off, standing still, empty, or as it should be. */
function faulty(text: string, format: VectorFormat, fault: string): string {
  if (format === 'svg') {
    if (fault === 'slow') return text.replace(/dur="[^"]*"/g, 'dur="4s"')
    if (fault === 'still') return text.replace(/<animate(Transform)? [^>]*\/>/g, '')
    const nothing = () => text.replace(/<animate attributeName="d"[^>]*\/>/g, '').replace(/ d="[^"]*"/g, ' d="M0 0"')
    return fault === 'empty' ? nothing() : text
  }
  const file = JSON.parse(text) as Json & { fr: number; op: number }
  if (fault === 'slow') return JSON.stringify({ ...file, fr: file.fr / 2 })
  return fault === 'empty' ? JSON.stringify({ ...file, layers: [] }) : text
}

Object.assign(globalThis, {
  async vectorProof(text: string, format: VectorFormat, fault: string) {
    const loop = parseLoop(text)
    const file = format === 'svg' ? svgOf(loop) : JSON.stringify(lottieOf(loop))
    const renderer = new BrowserRenderer(loop.width, loop.height, { forReading: true })
    const bytes = new TextEncoder().encode(faulty(file, format, fault))
    const settings = { ...PLAIN_SETTINGS, format }
    const proof = await proveVector(
      bytes,
      loop,
      settings,
      async (n) => renderer.picture(loop, n),
      () => {},
    )
    return proof.lines.filter(({ holds }) => !holds).map(({ what }) => what)
  },
})
