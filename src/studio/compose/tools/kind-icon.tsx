'use client'

import {
  Aperture,
  Blend,
  Box,
  Brush,
  ChartSpline,
  Contrast,
  Disc3,
  Droplet,
  Film,
  Grid3x3,
  Grip,
  Group,
  Hexagon,
  Image,
  type LucideIcon,
  Palette,
  PenTool,
  Puzzle,
  RotateCcwSquare,
  Rows3,
  SlidersHorizontal,
  SlidersVertical,
  Sparkles,
  Sun,
  Table2,
  Thermometer,
  Triangle,
  Type,
  Waves,
  Wind,
} from 'lucide-react'
import { defaultValues, type IconName, type LayerKind } from '@/core/layers'
import { svgPathData } from '@/core/path'

/** Icons by the names that kinds call them by. */
const ICONS: Readonly<Record<IconName, LucideIcon>> = {
  letters: Type,
  pen: PenTool,
  rows: Rows3,
  film: Film,
  picture: Image,
  disc: Disc3,
  group: Group,
  texture: Waves,
  particles: Sparkles,
  pattern: Grid3x3,
  lattice: Hexagon,
  brush: Brush,
  model: Box,
  part: Puzzle,
  levels: SlidersVertical,
  curve: ChartSpline,
  thermometer: Thermometer,
  palette: Palette,
  blend: Blend,
  table: Table2,
  contrast: Contrast,
  droplet: Droplet,
  sun: Sun,
  triangle: Triangle,
  grain: Grip,
  frame: Aperture,
  waves: Wind,
  sliders: SlidersHorizontal,
}

/** A kind of layer as an icon: its own outline, drawn small. */
export function KindIcon({ kind, size = 15 }: { kind: LayerKind; size?: number }) {
  const Own = kind.icon && ICONS[kind.icon]
  if (Own) return <Own size={size} aria-hidden="true" />
  const values = { ...defaultValues(kind.properties) }
  const box = kind.bounds(values)
  if (!kind.outline || !box) return <RotateCcwSquare size={size} aria-hidden="true" />
  const reach = Math.max(box.width, box.height, 1) * 0.62
  return (
    <svg width={size} height={size} viewBox={`${-reach} ${-reach} ${2 * reach} ${2 * reach}`} aria-hidden="true">
      <path
        d={svgPathData(kind.outline(values))}
        fill="none"
        stroke="currentColor"
        strokeWidth={reach / 5}
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  )
}
