'use client'

import { Grid3x3, Maximize, MoveHorizontal, MoveVertical, SearchCheck, ZoomIn, ZoomOut } from 'lucide-react'
import { useHotkeys } from 'react-hotkeys-hook'
import type { Clock } from '@/core/clock'
import { IconButton, NumberField } from '../parts'
import type { CompareGuide } from './guides'
import type { Viewport } from './viewport'

/** Aids for a close look: loupe, grid, guides. */
export interface Aids {
  readonly loupe: boolean
  /** px of the picture; null for no grid. */
  readonly grid: number | null
  readonly guides: readonly CompareGuide[]
}
export const NO_AIDS: Aids = { loupe: false, grid: null, guides: [] }

/** The grid that is offered first, px. */
const FIRST_GRID = 16
const CLOCK: Clock = { rate: { num: 25, den: 1 }, length: 1 }

interface LookToolsProps {
  readonly viewport: Viewport
  readonly size: { readonly width: number; readonly height: number }
  readonly aids: Aids
  readonly onAids: (aids: Aids) => void
}

/** Zooming to the pixels, and what helps to look at them. */
export function LookTools({ viewport, size, aids, onAids }: LookToolsProps) {
  const { view, isWhole, zoomIn, zoomOut, showAll, showPixels } = viewport
  const toggleLoupe = () => onAids({ ...aids, loupe: !aids.loupe })
  const toggleGrid = () => onAids({ ...aids, grid: aids.grid === null ? FIRST_GRID : null })
  useHotkeys('plus, equal, shift+equal', zoomIn, { preventDefault: true })
  useHotkeys('minus', zoomOut, { preventDefault: true })
  useHotkeys('0', showAll, { preventDefault: true })
  useHotkeys('z', showPixels, { preventDefault: true })
  useHotkeys('d', toggleLoupe, { preventDefault: true })
  useHotkeys('g', toggleGrid, { preventDefault: true })
  const add = (axis: CompareGuide['axis']) =>
    onAids({
      ...aids,
      guides: [...aids.guides, { axis, at: Math.round(axis === 'x' ? view.x : view.y) }],
    })
  return (
    <div className="flex h-7 items-center gap-0.5" role="toolbar" aria-label="Looking closely">
      <IconButton icon={ZoomOut} label="Zoom out" shortcut="−" disabled={isWhole} onClick={zoomOut} />
      <span className="figures w-14 text-center text-2xs" aria-live="polite" data-testid="zoom">
        {Math.round(100 * view.zoom)} %
      </span>
      <IconButton icon={ZoomIn} label="Zoom in" shortcut="+" onClick={zoomIn} />
      <IconButton icon={Maximize} label="Show all of it" shortcut="0" disabled={isWhole} onClick={showAll} />
      <button
        type="button"
        className="btn btn-ghost btn-xs font-normal"
        title="A pixel for a pixel (Z)"
        onClick={showPixels}
      >
        1 : 1
      </button>
      <span className="mx-1 h-4 border-base-300 border-s" />
      <IconButton icon={SearchCheck} label="Loupe" shortcut="D" pressed={aids.loupe} onClick={toggleLoupe} />
      <IconButton icon={Grid3x3} label="Grid" shortcut="G" pressed={aids.grid !== null} onClick={toggleGrid} />
      {aids.grid !== null && (
        <NumberField
          label="every"
          value={aids.grid}
          unit="px"
          step={1}
          min={1}
          max={Math.max(size.width, size.height)}
          context={CLOCK}
          className="w-44"
          onChange={(grid) => onAids({ ...aids, grid: Math.max(1, Math.round(grid)) })}
        />
      )}
      <IconButton icon={MoveHorizontal} label="Add an upright guide" onClick={() => add('x')} />
      <IconButton icon={MoveVertical} label="Add a level guide" onClick={() => add('y')} />
      {aids.guides.length > 0 && (
        <button
          type="button"
          className="btn btn-ghost btn-xs font-normal"
          onClick={() => onAids({ ...aids, guides: [] })}
        >
          No guides
        </button>
      )}
    </div>
  )
}
