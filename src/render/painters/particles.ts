import { mixColours, toHex, withAlpha } from '@/core/colour'
import type { ParticlesNode } from '@/core/display'
import { boxHolds, compose, type Matrix } from '@/core/path'
import { PARTICLE, particlesAt } from '@/core/texture'
import type { Brush, Context, NodePainter } from './painter'

/** Colours between the first and the last that are told apart, and the side of a sprite, px. */
const TINTS = 12
const SIDE = 64

const sprites = new WeakMap<object, Map<string, readonly Context[]>>()

/** A small picture of each tint. */
function spritesOf(brush: Brush, { shape, softness, from, to }: ParticlesNode): readonly Context[] {
  const kept = sprites.get(brush) ?? new Map<string, readonly Context[]>()
  sprites.set(brush, kept)
  const key = `${shape} ${softness} ${from} ${to}`
  const known = kept.get(key)
  if (known) return known
  if (kept.size > 8) kept.clear()
  const made = Array.from({ length: TINTS }, (_, i) => {
    const surface = brush.makeSurface(SIDE, SIDE)
    SPRITES[shape]?.(surface, mixColours(from, to, i / (TINTS - 1)), softness)
    return surface
  })
  kept.set(key, made)
  return made
}

const HALF = SIDE / 2

function soft(context: Context, colour: string, softness: number): CanvasGradient {
  const gradient = context.createRadialGradient(HALF, HALF, 0, HALF, HALF, HALF)
  const hard = Math.min(0.98, 1 - softness)
  gradient.addColorStop(0, toHex(colour))
  gradient.addColorStop(hard * 0.98, toHex(colour))
  // Fades as light does, not along a straight line.
  if (softness > 0.02) gradient.addColorStop(hard + (1 - hard) * 0.4, toHex(withAlpha(colour, 0.35)))
  gradient.addColorStop(1, toHex(withAlpha(colour, 0)))
  return gradient
}

/** How each shape is drawn into its sprite. */
const SPRITES: Readonly<Record<string, (context: Context, colour: string, softness: number) => void>> = {
  disc: (context, colour, softness) => {
    context.fillStyle = soft(context, colour, softness)
    context.fillRect(0, 0, SIDE, SIDE)
  },
  ring: (context, colour, softness) => {
    context.strokeStyle = toHex(colour)
    context.lineWidth = 3
    context.globalAlpha = 1 - 0.5 * softness
    context.beginPath()
    context.arc(HALF, HALF, HALF - 3, 0, 2 * Math.PI)
    context.stroke()
    context.fillStyle = toHex(withAlpha(colour, 0.12))
    context.fill()
    context.beginPath()
    context.arc(HALF, HALF, HALF - 10, 1.15 * Math.PI, 1.45 * Math.PI)
    context.stroke()
  },
  streak: (context, colour, softness) => {
    const gradient = context.createLinearGradient(0, 0, SIDE, 0)
    gradient.addColorStop(0, toHex(withAlpha(colour, 0)))
    gradient.addColorStop(0.5 + 0.4 * (1 - softness), toHex(colour))
    gradient.addColorStop(1, toHex(withAlpha(colour, 1 - softness)))
    context.fillStyle = gradient
    context.beginPath()
    context.ellipse(HALF, HALF, HALF, HALF, 0, 0, 2 * Math.PI)
    context.fill()
  },
  flake: (context, colour, softness) => {
    context.strokeStyle = toHex(colour)
    context.lineCap = 'round'
    context.lineWidth = 4
    context.globalAlpha = 1 - 0.5 * softness
    for (let arm = 0; arm < 6; arm++) {
      context.setTransform(1, 0, 0, 1, HALF, HALF)
      context.rotate((arm * Math.PI) / 3)
      context.beginPath()
      context.moveTo(0, 0)
      context.lineTo(HALF - 4, 0)
      for (const side of [-1, 1]) {
        context.moveTo(HALF * 0.5, 0)
        context.lineTo(HALF * 0.75, side * HALF * 0.25)
      }
      context.stroke()
    }
    context.setTransform(1, 0, 0, 1, 0, 0)
  },
}

const { x, y, size, angle, alpha, tint, stride } = PARTICLE

/** Places at which something of a reach is drawn, so that what lies over an edge is seen on the other side, too. */
const around = (at: number, reach: number, side: number): readonly number[] =>
  at < reach ? [at, at + side] : at > side - reach ? [at, at - side] : [at]

export const particlesPainter: NodePainter<ParticlesNode> = {
  type: 'particles',
  paint: (brush, context, node, transform) => {
    const { box, spec, time, shape, length, sprite } = node
    const { width, height } = box
    if (width <= 0 || height <= 0) return
    const all = particlesAt(spec, width, height, time)
    const corner = compose(transform, [1, 0, 0, 1, box.x, box.y])
    const opacity = context.globalAlpha
    context.save()
    context.setTransform(...transform)
    context.beginPath()
    context.rect(box.x, box.y, width, height)
    context.clip()
    const own = shape === 'layers' ? [] : spritesOf(brush, node)
    const turned = shape === 'flake' || shape === 'layers' || shape === 'streak'
    const heading = Math.atan2(spec.driftY * height, spec.driftX * width)
    if (!turned) context.setTransform(...corner)
    for (let i = 0; i < all.length; i += stride) {
      const opaque = all[i + alpha]
      if (opaque < 1 / 512) continue
      const across = all[i + size]
      const long = shape === 'streak' ? across * length : across
      const reach = Math.max(across, long) * 0.71
      const turn = shape === 'streak' ? heading : (all[i + angle] * Math.PI) / 180
      context.globalAlpha = opacity * opaque
      const image = own[Math.min(TINTS - 1, Math.floor(all[i + tint] * TINTS))]?.canvas
      for (const left of around(all[i + x], reach, width))
        for (const top of around(all[i + y], reach, height)) {
          if (!turned) {
            if (image) context.drawImage(image, left - across / 2, top - across / 2, across, across)
            continue
          }
          const cos = Math.cos(turn)
          const sin = Math.sin(turn)
          const place: Matrix = compose(corner, [cos, sin, -sin, cos, left, top])
          if (image) {
            context.setTransform(...place)
            context.drawImage(image, -long / 2, -across / 2, long, across)
          } else {
            const scale = across / 100
            const held = compose(place, [scale, 0, 0, scale, 0, 0])
            for (const child of sprite)
              brush.draw(context, { ...child, opacity: child.opacity * opaque * opacity }, held)
          }
        }
    }
    context.restore()
  },
  hits: ({ box }, point) => boxHolds(box, point),
}
