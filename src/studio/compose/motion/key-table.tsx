'use client'

import { X } from 'lucide-react'
import { memo, useId, useState } from 'react'
import { changeKey, easeKeys, removeKey } from '@/core/edit'
import { type MovingValue, NAMED_EASES, parseEase, periodFrames } from '@/core/motion'
import { useSession } from '@/store/session'
import { ChoiceField, classNames, IconButton, NumberField } from '../../parts'
import { ValueField } from '../properties/value-field'
import { changeMotion, type MotionOf } from './motion-of'

/** Motions with more keys are shown only as far as keys are chosen. */
const MAX_ROWS = 24
const EASE_CHOICES = [...NAMED_EASES, 'cubic-bezier(0.6, 0, 0.4, 1)', 'steps(4)']

/** The keys of a motion: where in the cycle, what value, and which ease leads to the next. */
export const KeyTable = memo(function KeyTable(of: MotionOf) {
  const { clock, motion } = of
  const period = periodFrames(motion.period, clock.length)
  const picked = useSession((session) => session.keys)
  const chosen = picked.filter((i) => i < motion.keys.length)
  const shown = motion.keys
    .map((key, index) => ({ key, index }))
    .filter(({ index }) => motion.keys.length <= MAX_ROWS || chosen.includes(index))
    .slice(0, MAX_ROWS)
  const eased = chosen.length > 0 ? chosen : motion.keys.map((_, i) => i)
  return (
    <fieldset>
      <legend className="dim float-left mb-1 w-full text-2xs">Keys: frame of the cycle, value, ease to the next</legend>
      <ol className="clear-both space-y-1">
        {shown.map(({ key, index }) => (
          <li
            key={index}
            className={classNames('flex items-center gap-1 rounded-field', chosen.includes(index) && 'bg-neutral')}
          >
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
      {motion.keys.length > MAX_ROWS && shown.length === 0 && (
        <p className="dim text-2xs">{motion.keys.length} keys; choose some on the curve to see them here.</p>
      )}
      <ChoiceField
        label={chosen.length > 0 ? `ease of ${chosen.length}` : 'ease of all'}
        className="mt-1"
        value=""
        options={['', ...EASE_CHOICES]}
        names={{ '': '…' }}
        onChange={(ease) => ease && changeMotion(of, (each) => easeKeys(each, eased, ease))}
      />
    </fieldset>
  )
})

function KeyValue(of: MotionOf & { index: number }) {
  const { clock, motion, property, index } = of
  const key = motion.keys[index]
  if (!key) return null
  const change = (value: MovingValue) => changeMotion(of, (each, length) => changeKey(each, index, { value }, length))
  return (
    <ValueField
      property={property}
      label={`Value of key ${index + 1}`}
      hideLabel
      value={key.value}
      clock={clock}
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
        {EASE_CHOICES.map((each) => (
          <option key={each} value={each} />
        ))}
      </datalist>
    </>
  )
}
