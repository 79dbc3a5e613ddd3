'use client'

import { useEffect, useId, useRef, useState } from 'react'
import type { ClassNameValue } from './class-names'
import { classNames } from './class-names'
import { FieldProblem } from './field-problem'
import { type FieldUnit, readNumber, showNumber, type UnitContext, unitText } from './number-text'

interface NumberFieldProps {
  readonly label: string
  readonly value: number
  readonly unit: FieldUnit
  /** What an arrow key adds; ten times as much with Shift. */
  readonly step: number
  readonly context: UnitContext
  /** Called with the value in the field's unit; may throw a RangeError with words for the field. */
  readonly onChange: (value: number) => void
  /** Around a drag over the label, so that it becomes one step of the history. */
  readonly onGesture?: (phase: 'begin' | 'end') => void
  readonly min?: number | undefined
  readonly max?: number | undefined
  readonly disabled?: boolean
  readonly hideLabel?: boolean
  readonly className?: ClassNameValue
}

const SCRUB_PX = 3

/** A number with its unit: takes sums and units, steps with the arrow keys, changes while its label is dragged. */
export function NumberField(props: NumberFieldProps) {
  const { label, value, unit, step, context, onChange, onGesture, min, max, disabled, hideLabel, className } = props
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const settled = useRef(false)
  const scrub = useRef<{ x: number; value: number; moved: boolean } | null>(null)
  const bounded = (v: number) => Math.min(max ?? Infinity, Math.max(min ?? -Infinity, v))

  const offer = (next: number): boolean => {
    try {
      onChange(bounded(next))
      setProblem(null)
      return true
    } catch (error) {
      setProblem((error as Error).message)
      return false
    }
  }
  /** Takes what was typed. What lies outside the field's range is refused in words, and not made another number. */
  const commit = (): boolean => {
    if (draft === null || settled.current) return true
    try {
      const next = readNumber(draft, unit, context)
      const shown = (bound: number) => `${showNumber(bound, unit)} ${unitText(unit)}`.trim()
      if (min !== undefined && next < min) throw new RangeError(`“${draft}” is too little: at least ${shown(min)}`)
      if (max !== undefined && next > max) throw new RangeError(`“${draft}” is too much: up to ${shown(max)}`)
      if (!offer(next)) return false
      setDraft(null)
      return true
    } catch (error) {
      setProblem((error as Error).message)
      return false
    }
  }
  const onKeyDown = (event: React.KeyboardEvent) => {
    if (event.key === 'Enter') {
      // What is typed is taken first; Enter on a field that is settled sends the form that it stands in.
      if (draft !== null) event.preventDefault()
      const typed = draft !== null
      if (commit() && typed) {
        // The field is done with: the next key is a shortcut again, not a letter more.
        settled.current = true
        ;(event.target as HTMLElement).blur()
        settled.current = false
      }
    } else if (event.key === 'Escape') {
      setDraft(null)
      setProblem(null)
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault()
      const by = step * (event.shiftKey ? 10 : 1) * (event.key === 'ArrowUp' ? 1 : -1)
      setDraft(null)
      offer(Number((value + by).toFixed(9)))
    } else return
    event.stopPropagation()
  }
  const onPointerDown = (event: React.PointerEvent<HTMLLabelElement>) => {
    if (disabled || event.button !== 0) return
    event.currentTarget.setPointerCapture(event.pointerId)
    scrub.current = { x: event.clientX, value, moved: false }
  }
  const onPointerMove = (event: React.PointerEvent) => {
    const start = scrub.current
    if (!start) return
    const steps = Math.round((event.clientX - start.x) / SCRUB_PX)
    if (steps === 0 && !start.moved) return
    if (!start.moved) onGesture?.('begin')
    start.moved = true
    setDraft(null)
    offer(Number((start.value + steps * step * (event.shiftKey ? 10 : 1)).toFixed(9)))
  }
  // A field that goes away in the middle of a drag ends it.
  const gesture = useRef(onGesture)
  gesture.current = onGesture
  useEffect(
    () => () => {
      if (scrub.current?.moved) gesture.current?.('end')
    },
    [],
  )
  const onPointerUp = (event: React.PointerEvent) => {
    if (scrub.current?.moved) {
      onGesture?.('end')
      event.preventDefault()
    }
    scrub.current = null
  }

  const suffix = unitText(unit)
  return (
    <div className={classNames('relative min-w-0', className)}>
      <div className="flex items-center gap-1.5">
        <label
          htmlFor={id}
          className={hideLabel ? 'sr-only' : 'dim w-19 shrink-0 cursor-ew-resize touch-none truncate select-none'}
          onPointerDown={onPointerDown}
          onPointerMove={onPointerMove}
          onPointerUp={onPointerUp}
          onPointerCancel={onPointerUp}
          onClick={(event) => scrub.current?.moved && event.preventDefault()}
          onKeyDown={undefined}
        >
          {label}
        </label>
        <span
          className={classNames(
            'input input-xs flex w-full min-w-0 items-center gap-1 bg-transparent px-1.5',
            problem && 'input-error',
          )}
        >
          <input
            id={id}
            className="figures w-full min-w-0"
            inputMode="decimal"
            autoComplete="off"
            spellCheck={false}
            disabled={disabled}
            aria-invalid={problem !== null}
            aria-describedby={problem ? `${id}-problem` : undefined}
            data-draft={draft !== null}
            value={draft ?? showNumber(value, unit)}
            onFocus={(event) => event.target.select()}
            onChange={(event) => setDraft(event.target.value)}
            onBlur={() => {
              if (commit()) setProblem(null)
            }}
            onKeyDown={onKeyDown}
          />
          {suffix && (
            <span className="dim figures" aria-hidden="true">
              {suffix}
            </span>
          )}
        </span>
      </div>
      {problem && <FieldProblem id={`${id}-problem`}>{problem}</FieldProblem>}
    </div>
  )
}
