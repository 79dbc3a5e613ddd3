'use client'

import { useState } from 'react'
import type { SheetGrid } from '@/core/image'
import { cutAnew } from '@/store/clip'
import { NumberField } from '../parts'
import { CLOCK } from './by-hand'

/** How a single picture is cut into the frames of a sprite sheet. */
export function SheetFields({
  grid,
  size,
}: {
  grid: SheetGrid
  size: { readonly width: number; readonly height: number }
}) {
  const [wanted, setWanted] = useState(grid)
  const cells = wanted.columns * wanted.rows
  const same = JSON.stringify(wanted) === JSON.stringify(grid)
  const field = (label: string, name: keyof SheetGrid, max: number) => (
    <NumberField
      label={label}
      value={wanted[name]}
      unit=""
      step={1}
      min={1}
      max={max}
      context={CLOCK}
      onChange={(value) => {
        const next = { ...wanted, [name]: Math.round(value) }
        setWanted(name === 'count' ? next : { ...next, count: next.columns * next.rows })
      }}
    />
  )
  return (
    <details open={grid.count > 1}>
      <summary className="cursor-pointer text-xs font-semibold">Sprite sheet</summary>
      <div className="mt-1 space-y-1">
        {field('columns', 'columns', Math.min(512, size.width))}
        {field('rows', 'rows', Math.min(512, size.height))}
        {field('frames', 'count', cells)}
        <button
          type="button"
          className="btn btn-neutral btn-xs font-normal"
          disabled={same}
          onClick={() => void cutAnew({ ...wanted, count: Math.min(wanted.count, cells) })}
        >
          Cut it into {Math.min(wanted.count, cells)} frames
        </button>
      </div>
    </details>
  )
}
