import { lottieOf, svgOf } from '@/codecs/write'
import { parseLoop } from '@/core/document'
import { PLAIN_SETTINGS, timingIn, type VectorFormat } from '@/core/output'
import { BrowserRenderer } from '@/render/browser'
import { proveVector } from '@/workers/inside/encoders/prove-vector'
import { vectorViewer } from '@/workers/page/read-vector'

type Json = Record<string, unknown>
/** Everything in a Lottie file that moves stays at its first value. */
const standing = (file: unknown): unknown => {
  if (Array.isArray(file)) return file.map(standing)
  if (typeof file !== 'object' || file === null) return file
  const { a, k } = file as { a?: unknown; k?: readonly { s: readonly unknown[] }[] }
  if (a === 1 && Array.isArray(k)) {
    const [first] = k
    const path = typeof first?.s[0] === 'object'
    return { ...file, a: 0, k: path ? first?.s[0] : first?.s.length === 1 ? first.s[0] : first?.s }
  }
  return Object.fromEntries(Object.entries(file).map(([name, value]) => [name, standing(value)]))
}

/** A vector file with a fault in it: too slow, standing still, empty, without its smallest part, or as it should be. */
function faulty(text: string, format: VectorFormat, fault: string): string {
  if (format === 'svg') {
    if (fault === 'slow') return text.replace(/dur="[^"]*"/g, 'dur="4s"')
    if (fault === 'still') return text.replace(/<animate(Transform)? [^>]*\/>/g, '')
    if (fault === 'part') return text.replace(/<path(?![\s\S]*<path)[\s\S]*?(<\/path>|\/>)/, '')
    const nothing = () => text.replace(/<animate attributeName="d"[^>]*\/>/g, '').replace(/ d="[^"]*"/g, ' d="M0 0"')
    return fault === 'empty' ? nothing() : text
  }
  const file = JSON.parse(text) as Json & { fr: number; op: number }
  if (fault === 'slow') return JSON.stringify({ ...file, fr: file.fr / 2 })
  if (fault === 'still') return JSON.stringify(standing(file))
  if (fault === 'part') return JSON.stringify({ ...file, layers: (file.layers as Json[]).slice(1) })
  return fault === 'empty' ? JSON.stringify({ ...file, layers: [] }) : text
}

Object.assign(globalThis, {
  async vectorProof(text: string, format: VectorFormat, fault: string) {
    const loop = parseLoop(text)
    const file = format === 'svg' ? svgOf(loop) : JSON.stringify(lottieOf(loop))
    const renderer = new BrowserRenderer(loop.width, loop.height, { forReading: true })
    const bytes = new TextEncoder().encode(faulty(file, format, fault))
    const settings = { ...PLAIN_SETTINGS, format }
    const { width, height } = loop
    const small = new Map<string, BrowserRenderer>()
    const proof = await proveVector(
      bytes,
      { loop, settings, timing: timingIn(loop, settings), width, height, transparent: loop.background === null },
      vectorViewer(),
      async (n) => renderer.picture(loop, n),
      async (of, n, w, h) => {
        const own = small.get(`${w} ${h}`) ?? new BrowserRenderer(w, h, { forReading: true })
        small.set(`${w} ${h}`, own)
        return own.picture(of, n)
      },
      () => {},
    )
    return proof.lines.filter(({ holds }) => !holds).map(({ what }) => what)
  },
})
