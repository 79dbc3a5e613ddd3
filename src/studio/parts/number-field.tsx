'use client'

import { useId, useRef, useState } from 'react'
import type { ClassNameValue } from './class-names'
import { classNames } from './class-names'
import { FieldProblem } from './field-problem'
import { type FieldUnit, fieldUnitText, readNumber, showNumber, type UnitContext } from './number-text'
import { startDrag } from './start-drag'

interface NumberFieldProps {
  readonly label: string
  readonly value: number
  readonly unit: FieldUnit
  /** Increment of an arrow key; ten times as much with Shift. */
  readonly step: number
  readonly context: UnitContext
  /** Called with the value in the field's unit; may throw a RangeError with words for the field. */
  readonly onChange: (value: number) => void
  readonly min?: number | undefined
  readonly max?: number | undefined
  /** Whether only whole numbers are taken. */
  readonly whole?: boolean
  readonly disabled?: boolean
  readonly hideLabel?: boolean
  readonly className?: ClassNameValue
  /** Whether what it stands for has several values, of which `value` is one. */
  readonly mixed?: boolean
  /** Called in place of `onChange` with what is done to each value: by steps, by dragging, by a sum such as `+10` or `*2`. */
  readonly onEach?: (change: (value: number) => number) => void
}

const SCRUB_PX = 3

/** The function of a sum such as `+10`, `*2` or `/3`; null if the text is none. */
function eachOf(text: string, unit: FieldUnit, context: UnitContext): ((value: number) => number) | null {
  const [, sign, rest = ''] = /^\s*([+*/×÷])(.*)$/s.exec(text) ?? []
  if (!sign) return null
  if (sign === '+') {
    const by = readNumber(rest, unit, context)
    return (value) => value + by
  }
  const by = readNumber(rest, '', context)
  return sign === '/' || sign === '÷' ? (value) => value / by : (value) => value * by
}

/** A number with its unit: takes sums and units, steps with the arrow keys, changes while its label is dragged. */
export function NumberField(props: NumberFieldProps) {
  const { label, value, unit, step, context, onChange, min, max, whole = false, disabled, hideLabel, className } = props
  const { mixed = false, onEach } = props
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const settled = useRef(false)
  const bounded = (v: number) => Math.min(max ?? Infinity, Math.max(min ?? -Infinity, v))

  const attempt = (work: () => void): boolean => {
    try {
      work()
      setProblem(null)
      return true
    } catch (error) {
      setProblem((error as Error).message)
      return false
    }
  }
  const offer = (next: number): boolean => attempt(() => onChange(bounded(next)))
  /** Steps from the value, or from each of them. */
  const stepBy = (by: number): boolean =>
    onEach
      ? attempt(() => onEach((each) => bounded(Number((each + by).toFixed(9)))))
      : offer(Number((value + by).toFixed(9)))
  /** Takes what was typed. What lies outside the field's range is refused in words, and not made another number. */
  const commit = (): boolean => {
    if (draft === null || settled.current) return true
    try {
      const sum = onEach && eachOf(draft, unit, context)
      if (sum) {
        if (!attempt(() => onEach((each) => bounded(sum(each))))) return false
        setDraft(null)
        return true
      }
      const next = readNumber(draft, unit, context)
      const shown = (bound: number) => `${showNumber(bound, unit)} ${fieldUnitText(unit)}`.trim()
      if (min !== undefined && next < min) throw new RangeError(`“${draft}” is too little: at least ${shown(min)}`)
      if (max !== undefined && next > max) throw new RangeError(`“${draft}” is too much: up to ${shown(max)}`)
      if (whole && !Number.isInteger(next))
        throw new RangeError(
          unit === 'tiles'
            ? `“${draft}” is no whole number of tiles: what drifts a part of one does not come home`
            : `“${draft}” is no whole number`,
        )
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
      // Enter first takes the typed value; on a settled field it submits the form.
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
      stepBy(by)
    } else return
    event.stopPropagation()
  }
  /** Whether the label was dragged, and not pressed to get into the field. */
  const scrubbed = useRef(false)
  const latest = useRef(offer)
  latest.current = offer
  const latestStep = useRef(stepBy)
  latestStep.current = stepBy
  const onPointerDown = (event: React.PointerEvent<HTMLLabelElement>) => {
    scrubbed.current = false
    if (disabled || event.button !== 0) return
    const from = event.clientX
    let gone = 0
    startDrag(event, {
      onMove: ({ clientX, shiftKey }) => {
        const steps = Math.round((clientX - from) / SCRUB_PX)
        if (steps === 0 && !scrubbed.current) return
        scrubbed.current = true
        setDraft(null)
        const by = steps * step * (shiftKey ? 10 : 1)
        if (onEach) latestStep.current(by - gone)
        else latest.current(Number((value + by).toFixed(9)))
        gone = by
      },
      // Of what is no part of the document, nothing else takes it back.
      onEnd: (cancelled, changed) => {
        if (!cancelled || !scrubbed.current || changed) return
        if (onEach) latestStep.current(-gone)
        else latest.current(value)
      },
    })
  }

  const suffix = fieldUnitText(unit)
  return (
    <div className={classNames('relative min-w-0', className)}>
      <div className="flex items-center gap-1.5">
        <label
          htmlFor={id}
          className={hideLabel ? 'sr-only' : 'dim w-19 shrink-0 cursor-ew-resize touch-none truncate select-none'}
          onPointerDown={onPointerDown}
          onClick={(event) => scrubbed.current && event.preventDefault()}
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
            value={draft ?? (mixed ? '' : showNumber(value, unit))}
            placeholder={mixed ? 'mixed' : undefined}
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
