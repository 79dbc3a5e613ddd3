import { type Box, pathBox } from '../../path'
import { ALIGNMENTS, FACES, type Setting, textPath } from '../../text'
import { defineShape, sizeProperty } from '../kind'

const outlines = new Map<string, ReturnType<typeof textPath>>()

/** Outlines are made once for every text and setting. */
function outlineOf(text: string, setting: Setting) {
  const key = JSON.stringify([text, setting])
  const known = outlines.get(key)
  if (known) return known
  if (outlines.size > 400) outlines.clear()
  const path = textPath(text, setting)
  outlines.set(key, path)
  return path
}

type TextValues = Setting & { readonly text: string }
const settingOf = ({ face, size, align, lineHeight, spacing }: TextValues): Setting => ({
  face,
  size,
  align,
  lineHeight,
  spacing,
})

/** Words set in a face that is shipped, as outlines. */
export const textKind = defineShape({
  kind: 'text',
  label: 'Text',
  icon: 'letters',
  shortcut: 't',
  properties: {
    text: { type: 'text', label: 'text', section: 'shape', default: 'Pier', most: 500 },
    face: { type: 'choice', label: 'face', section: 'shape', options: FACES, default: 'bold' },
    size: sizeProperty('size', 64),
    align: { type: 'choice', label: 'lines', section: 'shape', options: ALIGNMENTS, default: 'centre' },
    lineHeight: {
      type: 'number',
      label: 'line height',
      section: 'shape',
      unit: '×',
      default: 1.2,
      min: 0.1,
      max: 10,
      step: 0.05,
      moves: true,
    },
    spacing: {
      type: 'number',
      label: 'spacing',
      section: 'shape',
      unit: 'share',
      default: 0,
      min: -1,
      max: 10,
      step: 0.01,
      moves: true,
    },
  },
  faces: ({ face }) => [face],
  outline: (values) => outlineOf(values.text, settingOf(values)),
  bounds: (values): Box => pathBox(outlineOf(values.text, settingOf(values))) ?? { x: 0, y: 0, width: 0, height: 0 },
  fromDrag: (from, to) => ({
    x: (from.x + to.x) / 2,
    y: (from.y + to.y) / 2,
    size: Math.max(6, Math.abs(to.y - from.y) || 48),
  }),
})
