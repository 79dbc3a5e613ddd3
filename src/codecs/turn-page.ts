/** Content of a page with a turning object. */
export interface TurnPage {
  readonly name: string
  readonly width: number
  readonly height: number
  /** Frames a second. */
  readonly rate: number
  /** Each frame as a data address, in their order round the ring. */
  readonly frames: readonly string[]
}

const escaped = (text: string): string => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`)

/**
 * A page of its own, which needs nothing beside it: the object turns until it is taken hold of, then by dragging, with the arrow keys, or with the wheel. It stands
 * still where less motion is asked for.
 */
export function turnPage({ name, width, height, rate, frames }: TurnPage): string {
  const title = escaped(name)
  return `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${title}</title>
<style>
body { margin: 0; min-height: 100vh; display: grid; place-items: center; background: transparent }
#turn { width: ${width}px; max-width: 100vw; aspect-ratio: ${width} / ${height}; cursor: grab; touch-action: pan-y; outline-offset: 4px }
#turn:active { cursor: grabbing }
</style>
<canvas id="turn" width="${width}" height="${height}" tabindex="0" role="slider" aria-label="${title}, turned" aria-valuemin="0" aria-valuemax="${frames.length - 1}" aria-valuenow="0"></canvas>
<script type="application/json" id="frames">${JSON.stringify(frames).replaceAll('<', '\\u003c')}</script>
<script>
const canvas = document.getElementById('turn'), context = canvas.getContext('2d')
const pictures = JSON.parse(document.getElementById('frames').textContent).map((source) => Object.assign(new Image(), { src: source }))
const count = pictures.length
let at = 0, held = null, playing = !matchMedia('(prefers-reduced-motion: reduce)').matches, begun = null
function show(frame) {
  at = frame
  const n = ((Math.round(at) % count) + count) % count
  canvas.setAttribute('aria-valuenow', n)
  const picture = pictures[n]
  if (!picture.complete) return void picture.addEventListener('load', () => show(at), { once: true })
  context.clearRect(0, 0, canvas.width, canvas.height)
  context.drawImage(picture, 0, 0)
}
function tick(now) {
  if (!playing) return
  begun ??= now
  show(Math.floor(((now - begun) / 1000) * ${rate}))
  requestAnimationFrame(tick)
}
canvas.addEventListener('pointerdown', (event) => { playing = false; canvas.setPointerCapture(event.pointerId); held = { x: event.clientX, at } })
canvas.addEventListener('pointermove', (event) => { if (held) show(held.at + ((event.clientX - held.x) / canvas.clientWidth) * count) })
for (const end of ['pointerup', 'pointercancel']) canvas.addEventListener(end, () => { held = null })
canvas.addEventListener('wheel', (event) => { event.preventDefault(); playing = false; show(at + Math.sign(event.deltaX || event.deltaY)) }, { passive: false })
canvas.addEventListener('keydown', ({ key }) => {
  const step = { ArrowLeft: -1, ArrowRight: 1, PageDown: -count / 12, PageUp: count / 12 }[key]
  if (key === ' ') { playing = !playing; begun = null; requestAnimationFrame(tick) }
  else if (key === 'Home') { playing = false; show(0) }
  else if (step) { playing = false; show(Math.round(at + step)) }
})
show(0)
requestAnimationFrame(tick)
</script>
</html>
`
}
