'use client'

import { Bandage, FolderOpen } from 'lucide-react'
import { type FC, useId, useState } from 'react'
import type { Clock } from '@/core/clock'
import type { BrushStroke } from '@/core/effects'
import type {
  Change,
  ChoiceProperty,
  CurveProperty,
  NumberProperty,
  NumbersProperty,
  Property,
  PropertyValue,
  ReferenceProperty,
  Stop,
  StopsProperty,
  TextProperty,
} from '@/core/layers'
import { mediumKind } from '@/core/media'
import type { MovingValue } from '@/core/motion'
import { parsePath, pathPoints } from '@/core/path'
import { useOpenLoop } from '@/store/document'
import { setSession } from '@/store/session'
import { chooseMedium } from '../../material'
import { ChoiceField, ColourField, classNames, FieldProblem, IconButton, NumberField } from '../../parts'
import { gesture } from '../motion/motion-of'
import { ChangesField } from './changes-field'
import { CurveField } from './curve-field'
import { StopsField } from './stops-field'
import { StrokesField } from './strokes-field'
import { ValueField } from './value-field'
import { WordsField } from './words-field'

interface FieldProps {
  /** Of the property, in its kind. */
  readonly name?: string
  readonly property: Property
  readonly layerId: string
  readonly value: PropertyValue
  readonly clock: Clock
  readonly onChange: (value: PropertyValue) => void
}

type Editor = FC<FieldProps>

/** The fields of types of property. One that is not here is edited by its numbers, one by one. */
const EDITORS: Readonly<Record<string, Editor>> = {
  number: ({ property, value, clock, onChange }) => {
    const { label, unit, step, min, max, whole = false } = property as NumberProperty
    return <NumberField {...{ label, unit, step, min, max, whole, onChange }} value={Number(value)} context={clock} />
  },
  colour: ({ property, value, onChange }) => (
    <ColourField
      label={property.label}
      value={value as string | null}
      noneLabel="none"
      onChange={onChange}
      onGesture={gesture}
    />
  ),
  choice: ({ property, value, onChange }) => {
    const { label, options } = property as ChoiceProperty
    return <ChoiceField {...{ label, options, onChange }} value={String(value)} />
  },
  numbers: ({ property, value, onChange }) => (
    <NumbersField property={property as NumbersProperty} value={value as readonly number[]} onChange={onChange} />
  ),
  text: ({ property, value, onChange }) => {
    const { label, most } = property as TextProperty
    return <WordsField {...{ label, most, onChange }} value={String(value)} />
  },
  path: ({ property, value, onChange }) => (
    <PathField label={property.label} value={String(value)} onChange={onChange} />
  ),
  reference: ({ property, value, onChange }) => (
    <ReferenceField property={property as ReferenceProperty} value={String(value)} onChange={onChange} />
  ),
  stops: ({ property, value, clock, onChange }) => (
    <StopsField
      property={property as StopsProperty}
      value={value as readonly Stop[]}
      clock={clock}
      onChange={onChange}
    />
  ),
  curve: ({ name = '', property, layerId, value, onChange }) => (
    <CurveField
      name={name}
      property={property as CurveProperty}
      layerId={layerId}
      value={value as readonly number[]}
      onChange={onChange}
    />
  ),
  strokes: ({ value, clock, onChange }) => (
    <StrokesField value={value as readonly BrushStroke[]} clock={clock} onChange={onChange} />
  ),
  changes: ({ layerId, value, clock, onChange }) => (
    <ChangesField layerId={layerId} value={value as readonly Change[]} clock={clock} onChange={onChange} />
  ),
}

/** The field of a property. */
export function PropertyField(props: FieldProps) {
  const { property, value, clock, onChange } = props
  const Field = EDITORS[property.type]
  if (Field) return <Field {...props} />
  return (
    <ValueField
      property={property}
      label={property.label}
      value={value as MovingValue}
      clock={clock}
      onChange={onChange}
    />
  )
}

interface NumbersFieldProps {
  readonly property: NumbersProperty
  readonly value: readonly number[]
  readonly onChange: (value: readonly number[]) => void
}

function NumbersField({ property, value, onChange }: NumbersFieldProps) {
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const numbers = (text: string) =>
    text
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map(Number)
  const wrong =
    draft !== null && (numbers(draft).some((n) => !(n >= 0 && n <= 1e6)) || numbers(draft).length > property.most)
  const commit = () => {
    if (draft !== null && !wrong) onChange(numbers(draft))
    setDraft(null)
  }
  return (
    <div className="relative">
      <div className="flex items-center gap-1.5">
        <label htmlFor={id} className="dim w-19 shrink-0 truncate">
          {property.label}
        </label>
        <input
          id={id}
          className={classNames('input input-xs figures w-full min-w-0 bg-transparent px-1.5', wrong && 'input-error')}
          placeholder="none; or 12 8"
          data-draft={draft !== null}
          value={draft ?? value.join(' ')}
          aria-invalid={wrong}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={commit}
          onKeyDown={(event) => event.key === 'Enter' && commit()}
        />
      </div>
      {wrong && <FieldProblem>up to {property.most} lengths in px, such as 12 8</FieldProblem>}
    </div>
  )
}

/** SVG path data, typed or pasted; its points are dragged on the stage. */
function PathField({ label, value, onChange }: { label: string; value: string; onChange: (value: string) => void }) {
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const wrong = draft !== null && parsePath(draft) === null
  const commit = () => {
    if (draft !== null && !wrong && draft !== value) onChange(draft)
    setDraft(null)
  }
  const points = pathPoints(value).length
  return (
    <div className="relative">
      <div className="flex items-center gap-1.5">
        <label htmlFor={id} className="dim w-19 shrink-0 truncate" title={`${points} points`}>
          {label}
        </label>
        <input
          id={id}
          className={classNames('input input-xs figures w-full min-w-0 bg-transparent px-1.5', wrong && 'input-error')}
          placeholder="M0 0L40 20 …"
          spellCheck={false}
          data-draft={draft !== null}
          value={draft ?? value}
          aria-invalid={wrong}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={commit}
          onKeyDown={(event) => {
            if (event.key === 'Enter') commit()
            if (event.key === 'Escape') setDraft(null)
          }}
        />
      </div>
      {wrong && <FieldProblem>not SVG path data such as M0 0L40 20</FieldProblem>}
    </div>
  )
}

interface ReferenceFieldProps {
  readonly property: ReferenceProperty
  readonly value: string
  readonly onChange: (value: string) => void
}

/** One of the loops, pictures or clips that the document holds. */
function ReferenceField({ property, value, onChange }: ReferenceFieldProps) {
  const loop = useOpenLoop()
  const held: readonly { readonly id: string; readonly name: string }[] =
    (property.to === 'loop' ? loop?.loops : loop?.media.filter(({ kind }) => kind === property.to)) ?? []
  const names = Object.fromEntries([['', 'none'], ...held.map((each) => [each.id, each.name])])
  const readsFiles = property.to !== 'loop' && mediumKind(property.to).endings !== undefined
  const choose = async () => {
    const medium = await chooseMedium(property.to)
    if (medium) onChange(medium.id)
  }
  return (
    <div className="flex items-center gap-1">
      <ChoiceField
        label={property.label}
        value={value}
        options={['', ...held.map(({ id }) => id)]}
        names={names}
        className="flex-1"
        onChange={onChange}
      />
      {value !== '' && property.to !== 'loop' && mediumKind(property.to).withPictures && (
        <IconButton
          icon={Bandage}
          label="Heal its edges, so that it tiles"
          onClick={() => setSession({ healing: value })}
        />
      )}
      {readsFiles && <IconButton icon={FolderOpen} label={`From a file: ${property.label}`} onClick={choose} />}
    </div>
  )
}
