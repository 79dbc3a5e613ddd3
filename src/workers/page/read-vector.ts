import { transfer } from 'comlink'
import type { VectorClaims, VectorViewer } from '../inside/encoders/vector-viewer'

/** A vector file in the page, out of sight, that can be set to a moment. */
interface Shown extends VectorClaims {
  readonly at: (seconds: number) => SVGSVGElement
  readonly end: () => void
}

function place(): HTMLElement {
  const holder = document.createElement('div')
  holder.style.cssText = 'position:fixed;left:-20000px;top:0;visibility:hidden'
  holder.setAttribute('aria-hidden', 'true')
  document.body.append(holder)
  return holder
}

/** @throws Error where the file is no SVG */
function showSvg(text: string): Shown {
  const parsed = new DOMParser().parseFromString(text, 'image/svg+xml').documentElement
  if (!(parsed instanceof SVGSVGElement)) throw new Error('The file that was written is no SVG.')
  const holder = place()
  const svg = document.importNode(parsed, true)
  holder.append(svg)
  svg.pauseAnimations()
  const durations = [...svg.querySelectorAll('animate, animateTransform')].map((each) => each.getAttribute('dur'))
  return {
    seconds: Math.max(0, ...durations.map((text) => Number.parseFloat(text ?? '0'))),
    width: svg.width.baseVal.value,
    height: svg.height.baseVal.value,
    at: (seconds) => {
      svg.setCurrentTime(seconds)
      return still(svg)
    },
    end: () => holder.remove(),
  }
}

const LISTS = new Set(['stdDeviation', 'values'])

/** A copy of an SVG as the browser shows it at this moment, nothing in it moving. */
function still(svg: SVGSVGElement): SVGSVGElement {
  const copy = svg.cloneNode(true) as SVGSVGElement
  const [moving, copies] = [svg, copy].map((root) => [...root.querySelectorAll('animate, animateTransform')])
  for (const [i, each] of (moving ?? []).entries()) {
    const from = each.parentElement as unknown as SVGElement
    const to = copies?.[i]?.parentElement
    const name = each.getAttribute('attributeName') ?? ''
    if (to) to.setAttribute(name, animatedValue(from, name, each))
  }
  for (const each of copies ?? []) each.remove()
  return copy
}

/** The value that an attribute has at this moment, as the browser has worked it out. */
function animatedValue(element: SVGElement, name: string, animation: Element): string {
  if (name === 'transform') {
    const parts = Array.from((element as SVGGElement).transform.animVal, (each) => DOMMatrix.fromMatrix(each.matrix))
    const { a, b, c, d, e, f } = parts.reduce((whole, part) => whole.multiply(part), new DOMMatrix())
    return `matrix(${[a, b, c, d, e, f].join(' ')})`
  }
  if (name === 'd') return /"(.*)"/.exec(getComputedStyle(element).getPropertyValue('d'))?.[1] ?? ''
  const property = (element as unknown as Record<string, { animVal?: unknown }>)[
    name === 'stdDeviation' ? 'stdDeviationX' : name
  ]
  const value = property?.animVal
  if (typeof value === 'number') return String(value)
  if (value && typeof value === 'object' && 'value' in value) return String(value.value)
  if (LISTS.has(name) && value && typeof value === 'object')
    return Array.from(value as ArrayLike<{ value: number }>, (each) => each.value).join(' ')
  return getComputedStyle(element).getPropertyValue(name) || (animation.parentElement?.getAttribute(name) ?? '')
}

/** The player draws with SVG elements of its own, which are set to a frame. */
async function showLottie(text: string): Promise<Shown> {
  const { default: player } = await import('lottie-web/build/player/lottie_light')
  const holder = place()
  const file = JSON.parse(text) as { w: number; h: number; fr: number; op: number; ip: number }
  const animation = player.loadAnimation({
    container: holder,
    renderer: 'svg',
    autoplay: false,
    loop: true,
    animationData: structuredClone(file),
  })
  animation.setSubframe(true)
  const svg = holder.querySelector('svg')
  if (!svg) {
    holder.remove()
    throw new Error('The file that was written is not shown by a player of Lottie.')
  }
  svg.setAttribute('width', String(file.w))
  svg.setAttribute('height', String(file.h))
  return {
    seconds: (file.op - file.ip) / file.fr,
    width: file.w,
    height: file.h,
    at: (seconds) => {
      // A player that repeats is back at its first frame once it is through.
      animation.goToAndStop((seconds * file.fr) % (file.op - file.ip), true)
      return svg.cloneNode(true) as SVGSVGElement
    },
    end: () => {
      animation.destroy()
      holder.remove()
    },
  }
}

async function bitmapOf(svg: SVGSVGElement, width: number, height: number): Promise<ImageBitmap> {
  const text = new XMLSerializer().serializeToString(svg)
  const image = new Image(width, height)
  const url = URL.createObjectURL(new Blob([text], { type: 'image/svg+xml' }))
  try {
    image.src = url
    await image.decode()
    const context = new OffscreenCanvas(width, height).getContext('2d')
    if (!context) throw new Error('This browser gives no 2D canvas. Cyclon needs one to draw.')
    context.drawImage(image, 0, 0, width, height)
    return context.canvas.transferToImageBitmap()
  } finally {
    URL.revokeObjectURL(url)
  }
}

export function vectorViewer(): VectorViewer {
  let shown: Shown | null = null
  let closed = false
  const takeOut = () => {
    shown?.end()
    shown = null
  }
  return {
    close: async () => {
      closed = true
      takeOut()
    },
    open: async (text, format) => {
      takeOut()
      shown = format === 'svg' ? showSvg(text) : await showLottie(text)
      const { seconds, width, height } = shown
      // It may have been closed while the player was being fetched.
      if (closed) takeOut()
      return { seconds, width, height }
    },
    at: async (seconds, width, height) => {
      if (!shown) throw new Error('No vector file is open.')
      const bitmap = await bitmapOf(shown.at(seconds), width, height)
      return transfer(bitmap, [bitmap])
    },
  }
}
