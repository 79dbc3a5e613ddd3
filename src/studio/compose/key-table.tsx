'use client'

import { X } from 'lucide-react'
import { memo, useId, useState } from 'react'
import type { Property } from '@/core/layers'
import { changeKey, removeKey, setAllEases } from '@/core/loop'
import { type MovingValue, NAMED_EASES, parseEase, periodFrames } from '@/core/motion'
import { ColourField, classNames, type FieldUnit, IconButton, NumberField } from '../parts'
import { changeMotion, gesture, type MotionOf } from './motion-of'

const unitOf = (property: Property): FieldUnit => (property.type === 'number' ? property.unit : '')

/** The keys of a motion: where in the cycle, what value, and which ease leads to the next. */
export const KeyTable = memo(function KeyTable(of: MotionOf) {
  const { clock, motion } = of
  const period = periodFrames(motion.period, clock.length)
  return (
    <fieldset>
      <legend className="dim float-left mb-1 w-full text-2xs">Keys: frame of the cycle, value, ease to the next</legend>
      <ol className="clear-both space-y-1">
        {motion.keys.map((key, index) => (
          <li key={index} className="flex items-center gap-1">
            <NumberField
              label={`Frame of key ${index + 1}`}
              hideLabel
              className="w-16 shrink-0"
              value={key.at * period}
              unit="frames"
              step={1}
              context={clock}
              onChange={(frame) =>
                changeMotion(of, (each, length) => changeKey(each, index, { at: frame / period }, length))
              }
            />
            <KeyValue {...of} index={index} />
            <EaseField
              label={`Ease of key ${index + 1}`}
              ease={key.ease}
              onChange={(ease) => changeMotion(of, (each, length) => changeKey(each, index, { ease }, length))}
            />
            <IconButton
              icon={X}
              label={`Delete key ${index + 1}`}
              disabled={motion.keys.length === 1}
              onClick={() => changeMotion(of, (each) => removeKey(each, index))}
            />
          </li>
        ))}
      </ol>
      {motion.keys.some(({ ease }) => ease !== 'linear') && (
        <button
          type="button"
          className="btn btn-ghost btn-xs mt-1 font-normal"
          onClick={() => changeMotion(of, (each) => setAllEases(each, 'linear'))}
        >
          All linear
        </button>
      )}
    </fieldset>
  )
})

function KeyValue(of: MotionOf & { index: number }) {
  const { clock, motion, property, index } = of
  const key = motion.keys[index]
  if (!key) return null
  const change = (value: MovingValue) => changeMotion(of, (each, length) => changeKey(each, index, { value }, length))
  if (property.type === 'colour')
    return (
      <div className="min-w-0 flex-1">
        <ColourField
          label={`Value of key ${index + 1}`}
          hideLabel
          value={String(key.value)}
          onChange={(value) => value && change(value)}
          onGesture={gesture}
        />
      </div>
    )
  return (
    <NumberField
      label={`Value of key ${index + 1}`}
      hideLabel
      className="w-20 shrink-0"
      value={Number(key.value)}
      unit={unitOf(property)}
      step={property.type === 'number' ? property.step : 1}
      context={clock}
      onChange={change}
    />
  )
}

/** A CSS ease: a named one chosen, or any typed. */
function EaseField({ label, ease, onChange }: { label: string; ease: string; onChange: (ease: string) => void }) {
  const list = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const wrong = draft !== null && parseEase(draft.trim()) === null
  const commit = () => {
    if (draft !== null && !wrong) onChange(draft.trim())
    setDraft(null)
  }
  return (
    <>
      <input
        aria-label={label}
        list={list}
        className={classNames(
          'input input-xs figures w-full min-w-0 flex-1 bg-transparent px-1.5',
          wrong && 'input-error',
        )}
        data-draft={draft !== null}
        value={draft ?? ease}
        title={ease}
        aria-invalid={wrong}
        spellCheck={false}
        onChange={(event) => {
          const { value } = event.target
          if ((NAMED_EASES as readonly string[]).includes(value)) {
            onChange(value)
            setDraft(null)
          } else setDraft(value)
        }}
        onFocus={(event) => event.target.select()}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === 'Enter') commit()
          if (event.key === 'Escape') setDraft(null)
        }}
      />
      <datalist id={list}>
        {[...NAMED_EASES, 'cubic-bezier(0.6, 0, 0.4, 1)', 'steps(4)'].map((each) => (
          <option key={each} value={each} />
        ))}
      </datalist>
    </>
  )
}
