'use client'

import { Brush, Eraser, Undo2, X } from 'lucide-react'
import type { Clock } from '@/core/clock'
import type { BrushStroke } from '@/core/effects'
import { BRUSH_TOOL, type BrushSettings, setSession, useSessionParts } from '@/store/session'
import { runCommand, shortcutOf } from '../../commands'
import { IconButton, NumberField } from '../../parts'

interface StrokesFieldProps {
  readonly value: readonly BrushStroke[]
  readonly clock: Clock
  readonly onChange: (value: readonly BrushStroke[]) => void
}

/** The brush that paints on the selected layer, and the strokes that are there. */
export function StrokesField({ value, clock, onChange }: StrokesFieldProps) {
  const { brush, tool, tint } = useSessionParts('brush', 'tool', 'tint')
  const set = (change: Partial<BrushSettings>) => setSession({ brush: { ...brush, ...change } })
  const painting = tool === BRUSH_TOOL
  const part = (label: string, name: 'softness' | 'strength') => (
    <NumberField
      label={label}
      value={brush[name]}
      unit="share"
      step={0.05}
      min={0}
      max={1}
      context={clock}
      onChange={(share) => set({ [name]: share })}
    />
  )
  return (
    <div className="space-y-1">
      <div className="flex items-center gap-0.5">
        <IconButton
          icon={Brush}
          label="Paint"
          shortcut={shortcutOf('paint-mask')}
          pressed={painting && !brush.erases}
          onClick={() =>
            setSession({ tool: painting && !brush.erases ? null : BRUSH_TOOL, brush: { ...brush, erases: false } })
          }
        />
        <IconButton
          icon={Eraser}
          label="Take away"
          shortcut="Alt"
          pressed={painting && brush.erases}
          onClick={() =>
            setSession({ tool: painting && brush.erases ? null : BRUSH_TOOL, brush: { ...brush, erases: true } })
          }
        />
        <span className="dim figures ms-2 flex-1 truncate">
          {value.length === 1 ? '1 stroke' : `${value.length} strokes`}
        </span>
        <IconButton
          icon={Undo2}
          label="Without the last stroke"
          disabled={value.length === 0}
          onClick={() => onChange(value.slice(0, -1))}
        />
        <IconButton icon={X} label="Without all strokes" disabled={value.length === 0} onClick={() => onChange([])} />
      </div>
      <NumberField
        label="brush size"
        value={brush.size}
        unit="px"
        step={5}
        min={1}
        max={2000}
        context={clock}
        onChange={(size) => set({ size })}
      />
      {part('softness', 'softness')}
      {part('strength', 'strength')}
      <label className="flex items-center gap-2">
        <input type="checkbox" className="toggle toggle-xs" checked={tint} onChange={() => runCommand('tint')} />
        show it as a tint
      </label>
    </div>
  )
}
