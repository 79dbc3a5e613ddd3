import { type DisplayNode, type GroupNode, nodeType, type PictureNode, type ShapeNode } from '@/core/display'
import type { Loop } from '@/core/document'
import { LUMA } from '@/core/image'
import { keysOf, partsAlong, type VectorNode, vectorNodes } from '@/core/output'
import type { EmbeddedPictures } from '../embedded'
import { filter } from './filters'
import { fillAttributes, strokeAttributes } from './paint'
import { colourParts, element, fixed, NEAR_SHARE, px, SVG_TOLERANCE, shareText, Writer } from './writer'

const escaped = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)

/** Content moved, turned, sheared and scaled. Only one animation may set an element's transform: each part has its own. */
function placed(writer: Writer, node: VectorNode, content: string): string {
  const parts = partsAlong(node.at.map(({ transform }) => transform))
  const kinds = [
    ['translate', parts.map(({ x, y }) => [x, y]), 0],
    ['rotate', parts.map(({ turn }) => [turn]), 0],
    ['skewX', parts.map(({ shear }) => [shear]), 0],
    ['scale', parts.map(({ scaleX, scaleY }) => [scaleX, scaleY]), 1],
  ] as const
  return kinds.reduceRight((inner, [type, series, rest]) => {
    const text = (values: readonly number[]) => values.map(type === 'scale' ? shareText : px).join(' ')
    const keys = keysOf(series, type === 'scale' ? NEAR_SHARE : SVG_TOLERANCE)
    const first = series[0] as readonly number[]
    if (keys.length < 2 && first.every((value) => Math.abs(value - rest) < 1e-6)) return inner
    const animation = writer.animate(`<animateTransform attributeName="transform" type="${type}"`, keys, ({ values }) =>
      text(values),
    )
    return element('g', [{ text: ` transform="${type}(${text(first)})"`, animation }], inner)
  }, content)
}

function drawn(writer: Writer, pictures: EmbeddedPictures, node: VectorNode): string {
  if (node.at.every(({ opacity }) => opacity <= 0)) return ''
  const opacities = node.at.map(({ opacity }) => opacity)
  const { blend } = node.at[0] as DisplayNode
  const filters = filter(
    writer,
    node.at.map((at) => at.filters ?? []),
  )
  const content = CONTENTS[node.type]?.(writer, pictures, node) ?? ''
  const inner = placed(writer, node, filters ? element('g', [fixed(`filter="url(#${filters})"`)], content) : content)
  const attributes = [
    ...(opacities.every((opacity) => opacity === 1) ? [] : [writer.shares('opacity', opacities)]),
    ...(blend === 'normal' ? [] : [fixed(`style="mix-blend-mode:${blend}"`)]),
  ]
  return attributes.length > 0 ? element('g', attributes, inner) : inner
}

/** A node's own drawing, before it is placed and faded. */
type Content = (writer: Writer, pictures: EmbeddedPictures, node: VectorNode) => string

/** Translation of each type of display node; other types are left out, as `inexpressible` reports. */
const CONTENTS: Readonly<Record<string, Content>> = {
  shape: (writer, _, { at }) => {
    const shapes = at as readonly ShapeNode[]
    const filled = fillAttributes(
      writer,
      shapes.map((each) => each.fill),
    )
    return `${filled}${strokeAttributes(
      writer,
      shapes.map((each) => each.stroke),
    )}`
  },
  picture: (_, pictures, { at }) => {
    const [{ id, box }] = at as readonly [PictureNode]
    const href = pictures.get(id)?.url
    if (!href) return ''
    const { x, y, width, height } = box
    return `<image x="${px(x)}" y="${px(y)}" width="${px(width)}" height="${px(height)}" preserveAspectRatio="none" href="${href}"/>`
  },
  group: (writer, pictures, node) => groupOf(writer, pictures, node, node.at[0] as GroupNode),
}

function groupOf(
  writer: Writer,
  pictures: EmbeddedPictures,
  node: VectorNode,
  { mask = 'none', clip }: GroupNode,
): string {
  const children = [...node.children]
  const cut = mask === 'none' ? undefined : children.pop()
  let content = children.map((child) => drawn(writer, pictures, child)).join('')
  if (clip) {
    const id = writer.id()
    const { x, y, width, height } = clip
    const rect = `<rect x="${px(x)}" y="${px(y)}" width="${px(width)}" height="${px(height)}"/>`
    writer.definitions.push(`<clipPath id="${id}">${rect}</clipPath>`)
    content = element('g', [fixed(`clip-path="url(#${id})"`)], content)
  }
  // A mask that cannot be drawn is left out, and reported: its children are shown whole.
  if (!cut || !nodeType(cut.at[0] as DisplayNode).vectors.includes('svg')) return content
  const id = writer.id()
  const shape = drawn(writer, pictures, cut)
  const inside =
    mask === 'inverse'
      ? `<g filter="url(#${inverse(writer)})"><rect ${writer.everywhere} fill="none"/>${shape}</g>`
      : mask === 'darkness'
        ? darkAlone(writer, shape)
        : shape
  const type = mask === 'brightness' ? 'luminance' : 'alpha'
  writer.definitions.push(maskOf(writer, id, type, inside))
  return element('g', [fixed(`mask="url(#${id})"`)], content)
}

const maskOf = (writer: Writer, id: string, type: 'alpha' | 'luminance', inside: string): string =>
  `<mask id="${id}" maskUnits="userSpaceOnUse" ${writer.everywhere} style="mask-type:${type}">${inside}</mask>`

/** A drawing on black, as opaque as it is dark: nested masks are not drawn anew by browsers when what is in them moves. */
const darkAlone = (writer: Writer, shape: string): string =>
  `<g filter="url(#${darkness(writer)})"><rect ${writer.everywhere} fill="#000"/>${shape}</g>`

/** The filter that makes opaque what is dark (luma of Rec. 709). */
function darkness(writer: Writer): string {
  const id = 'darkness'
  if (!writer.definitions.some((each) => each.startsWith(`<filter id="${id}"`)))
    writer.definitions.push(
      `<filter id="${id}" filterUnits="userSpaceOnUse" ${writer.everywhere} color-interpolation-filters="sRGB"><feColorMatrix values="0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 ${LUMA.map((share) => -share).join(' ')} 0 1"/></filter>`,
    )
  return id
}

/** The filter that makes clear what is opaque, and the other way round. */
function inverse(writer: Writer): string {
  const id = 'inverse'
  if (!writer.definitions.some((each) => each.startsWith(`<filter id="${id}"`)))
    writer.definitions.push(
      `<filter id="${id}" filterUnits="userSpaceOnUse" ${writer.everywhere}><feComponentTransfer><feFuncA type="table" tableValues="1 0"/></feComponentTransfer></filter>`,
    )
  return id
}

/**
 * A loop as an animated SVG: one file, without script or anything from elsewhere, that repeats for ever. At the times of its
 * frames it shows them; in between, what lies between. What it cannot show is named by `inexpressible`.
 * @param scale of its size against the loop's; the drawing itself has no size
 * @param pictures what it shows of media
 */
export function svgOf(loop: Loop, scale = 1, pictures: EmbeddedPictures = new Map()): string {
  const { width, height, background, length, rate, name } = loop
  const writer = new Writer(length, (length * rate.den) / rate.num, 4 * Math.max(width, height))
  const nodes = vectorNodes(loop).map((node) => drawn(writer, pictures, node))
  const [ground, opacity] = colourParts(background ?? 'transparent')
  const back = background
    ? `<rect width="${width}" height="${height}" fill="${ground}" fill-opacity="${shareText(opacity)}"/>`
    : ''
  const definitions = writer.definitions.length > 0 ? `<defs>${writer.definitions.join('')}</defs>` : ''
  const head = `xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${px(width * scale)}" height="${px(height * scale)}"`
  return `<svg ${head}><title>${escaped(name)}</title>${definitions}${back}${nodes.join('')}</svg>\n`
}
