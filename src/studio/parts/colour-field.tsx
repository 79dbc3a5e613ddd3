'use client'

import { Ban } from 'lucide-react'
import { useCallback, useEffect, useId, useRef, useState } from 'react'
import { HexAlphaColorPicker } from 'react-colorful'
import { colourName, isColour, namedColour, toHex } from '@/core/colour'
import { usePalette } from '@/store/document'
import { IconButton } from './controls'
import { FieldProblem } from './field-problem'
import { useDismiss } from './use-dismiss'

interface ColourFieldProps {
  readonly label: string
  /** A CSS colour; null for none. */
  readonly value: string | null
  /** Without it the colour cannot be taken away. */
  readonly noneLabel?: string
  readonly onChange: (colour: string | null) => void
  readonly onGesture?: (phase: 'begin' | 'end') => void
  readonly hideLabel?: boolean
}

/** A CSS colour, typed or picked. */
export function ColourField({ label, value, noneLabel, onChange, onGesture, hideLabel }: ColourFieldProps) {
  const id = useId()
  const [open, setOpen] = useState(false)
  const [draft, setDraft] = useState<string | null>(null)
  const palette = usePalette()
  const known = (text: string) => palette.find(({ name }) => name === colourName(text))
  const wrong = draft !== null && !isColour(draft) && !known(draft)
  const shown = value === null ? null : (known(value)?.colour ?? value)
  const box = useRef<HTMLDivElement>(null)
  const gesture = useRef(onGesture)
  gesture.current = onGesture
  useDismiss(
    box,
    open,
    useCallback(() => setOpen(false), []),
  )
  // The gesture ends with the picker, whichever way that goes: also where the field itself is taken away.
  useEffect(() => {
    if (!open) return
    gesture.current?.('begin')
    return () => gesture.current?.('end')
  }, [open])
  /** Takes what was typed; what is no colour stays in the field, with what is wrong said, until it is put right or taken back. */
  const commit = () => {
    if (wrong) return
    if (draft !== null) onChange(draft)
    setDraft(null)
  }
  return (
    <div ref={box} className="relative">
      <div className="flex items-center gap-1.5">
        <label htmlFor={id} className={hideLabel ? 'sr-only' : 'dim w-19 shrink-0 truncate'}>
          {label}
        </label>
        <button
          type="button"
          className="hairline weave relative size-6 shrink-0 overflow-hidden rounded-field border"
          aria-label={`Pick ${label}`}
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          {shown ? (
            <span className="absolute inset-0" style={{ background: shown }} />
          ) : (
            <span className="absolute top-1/2 left-0 h-px w-full -rotate-45 bg-base-content" />
          )}
        </button>
        <input
          id={id}
          className={`input input-xs figures w-full min-w-0 bg-transparent px-1.5 ${wrong ? 'input-error' : ''}`}
          data-draft={draft !== null}
          value={draft ?? (value && (colourName(value) ?? value)) ?? ''}
          title={value && colourName(value) ? `The named colour ${colourName(value)}` : undefined}
          placeholder={noneLabel ?? ''}
          spellCheck={false}
          autoComplete="off"
          aria-invalid={wrong}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={commit}
          onKeyDown={(event) => {
            if (event.key === 'Enter') {
              if (draft !== null) event.preventDefault()
              if (!wrong && draft !== null) event.currentTarget.blur()
            }
            if (event.key === 'Escape') setDraft(null)
          }}
        />
        {noneLabel && value !== null && (
          <IconButton icon={Ban} label={`${label}: ${noneLabel}`} onClick={() => onChange(null)} />
        )}
      </div>
      {wrong && <FieldProblem>“{draft}” is not a CSS colour such as #f2b54a; Esc takes it back</FieldProblem>}
      {open && (
        <div className="hairline absolute top-7 right-0 z-30 rounded-box border bg-base-100 p-2 shadow-lg">
          <HexAlphaColorPicker color={toHex(shown ?? '#f2b54a')} onChange={onChange} />
          {palette.length > 0 && (
            <ul className="mt-2 flex max-w-50 flex-wrap gap-1" aria-label="Named colours">
              {palette.map(({ name, colour }) => (
                <li key={name}>
                  <button
                    type="button"
                    className="btn btn-ghost btn-xs gap-1 px-1 font-normal"
                    aria-pressed={value === namedColour(name)}
                    onClick={() => onChange(namedColour(name))}
                  >
                    <span className="hairline size-3.5 rounded-field border" style={{ background: colour }} />
                    {name}
                  </button>
                </li>
              ))}
            </ul>
          )}
        </div>
      )}
    </div>
  )
}
