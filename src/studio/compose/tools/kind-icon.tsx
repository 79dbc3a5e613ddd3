'use client'

import { Disc3, Film, Image, type LucideIcon, PenTool, RotateCcwSquare, Rows3, Type } from 'lucide-react'
import { defaultValues, type LayerKind } from '@/core/layers'
import { svgPathData } from '@/core/path'

/** Icons of kinds whose outline would not tell them apart. */
const ICONS: Readonly<Record<string, LucideIcon>> = {
  text: Type,
  path: PenTool,
  copies: Rows3,
  loop: Film,
  picture: Image,
  belt: Disc3,
}

/** A kind of layer as an icon: its own outline, drawn small. */
export function KindIcon({ kind, size = 15 }: { kind: LayerKind; size?: number }) {
  const Own = ICONS[kind.kind]
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
