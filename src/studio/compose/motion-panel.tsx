'use client'

import { CirclePlus, Trash2 } from 'lucide-react'
import { memo, useMemo } from 'react'
import { layerKind } from '@/core/layers'
import {
  changeLayer,
  findLayer,
  type Layer,
  type Loop,
  propertyAt,
  setAfter,
  setKeyAtFrame,
  setMotion,
  switchPeriod,
} from '@/core/loop'
import { AFTER_EACH_CYCLE, isTied, type Motion, type MovingValue, stretchTravel, travel } from '@/core/motion'
import { changeLoop, useOpenLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { setSession, useSessionParts } from '@/store/session'
import { ChoiceField, classNames, IconButton, NumberField, PanelHeading } from '../parts'
import { AllMotions } from './all-motions'
import { Homecoming } from './homecoming'
import { KeyTable } from './key-table'
import { MotionCurve } from './motion-curve'
import { changeMotion, gesture, type MotionOf } from './motion-of'

/** The motion of the chosen property: unrolled, with its cycle, its keys, and whether it comes home. */
export function MotionPanel({ loop }: { loop: Loop }) {
  const { selection, property: name } = useSessionParts('selection', 'property')
  const layer = selection.length === 1 ? findLayer(loop, selection[0] as string) : undefined
  const chosen = layer && (name && layer.motions[name] ? name : Object.keys(layer.motions)[0])
  const property = layer && chosen ? layerKind(layer.kind).properties[chosen] : undefined
  const motion = layer && chosen ? layer.motions[chosen] : undefined
  const { rate, length } = loop
  const clock = useMemo(() => ({ rate, length }), [rate, length])
  if (!layer || !chosen || !property || !motion)
    return (
      <section className="h-full bg-base-100" aria-label="Motion">
        <PanelHeading title="Motion" />
        <p className="dim p-3 text-xs">
          {layer
            ? `${layer.name} does not move yet. The small ring beside a property gives it a motion, tied to the loop.`
            : 'Select a layer to see how it moves, or one of these motions.'}
        </p>
        {!layer && <AllMotions loop={loop} />}
      </section>
    )
  return (
    <OpenMotion
      key={`${layer.id} ${chosen}`}
      loop={loop}
      layer={layer}
      of={{ clock, layerId: layer.id, name: chosen, property, motion }}
    />
  )
}

function OpenMotion({ loop, layer, of }: { loop: Loop; layer: Layer; of: MotionOf }) {
  const { name, property } = of
  const open = useOpenLoop()
  const names = Object.keys(layer.motions)
  const addKey = () => {
    const frame = frameNow()
    const value = propertyAt(layer, name, frame, loop.length) as MovingValue
    changeMotion(of, (each, length) => setKeyAtFrame(each, value, frame, length))
  }
  const takeAway = () => {
    const value = propertyAt(layer, name, frameNow(), loop.length) as MovingValue
    changeLoop((current) => changeLayer(current, layer.id, (each) => setMotion(each, name, null, value)))
    setSession({ property: null })
  }
  return (
    <section className="flex h-full min-h-0 flex-col bg-base-100" aria-label="Motion">
      <PanelHeading title={`Motion of ${layer.name}`}>
        <div className="me-2 flex gap-0.5" role="group" aria-label="Moving properties">
          {names.map((each) => (
            <button
              key={each}
              type="button"
              aria-pressed={each === name}
              className={classNames(
                'btn btn-ghost btn-xs px-2 font-normal',
                each === name && 'bg-neutral text-primary',
              )}
              onClick={() => setSession({ property: each })}
            >
              {layerKind(layer.kind).properties[each]?.label}
            </button>
          ))}
        </div>
        <IconButton icon={CirclePlus} label="Set a key at the playhead" onClick={addKey} />
        <IconButton icon={Trash2} label={`Take the motion of ${property.label} away`} onClick={takeAway} />
      </PanelHeading>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_17.5rem]">
        <MotionCurve {...of} />
        <div className="hairline min-h-0 space-y-2 overflow-y-auto border-s px-3 py-2">
          {open && <Homecoming loop={open} layerId={layer.id} name={name} />}
          <CycleFields {...of} />
          <KeyTable {...of} />
        </div>
      </div>
    </section>
  )
}

const CycleFields = memo(function CycleFields(of: MotionOf) {
  const { clock, motion, property } = of
  const tied = isTied(motion.period)
  const options =
    property.type === 'colour' ? AFTER_EACH_CYCLE.filter((after) => after !== 'accumulate') : AFTER_EACH_CYCLE
  return (
    <fieldset className="space-y-1">
      <legend className="dim float-left w-full text-2xs">Cycle</legend>
      <div className="clear-both" />
      <ChoiceField
        label="after each"
        value={motion.after}
        options={options}
        onChange={(after) => changeMotion(of, (each) => setAfter(each, after))}
      />
      <div className="flex items-center gap-1.5">
        <div className="join shrink-0" role="group" aria-label="Period">
          {[true, false].map((choice) => (
            <button
              key={String(choice)}
              type="button"
              aria-pressed={tied === choice}
              title={choice ? 'Tied to the loop: a whole number of cycles' : 'Free: so many frames, whatever the loop'}
              className={classNames(
                'btn join-item btn-xs px-1.5 font-normal',
                tied === choice ? 'bg-neutral text-primary' : 'btn-ghost',
              )}
              onClick={() => changeMotion(of, (each, length) => switchPeriod(each, choice, frameNow(), length))}
            >
              {choice ? 'tied' : 'free'}
            </button>
          ))}
        </div>
        {isTied(motion.period) ? (
          <NumberField
            label="Cycles in the loop"
            hideLabel
            className="flex-1"
            value={motion.period.cycles}
            unit="cycles"
            step={1}
            min={1}
            max={clock.length}
            context={clock}
            onChange={(cycles) => {
              if (!Number.isInteger(Number(cycles.toFixed(6))))
                throw new RangeError('a tied motion has whole cycles; make it free for a broken count')
              changeMotion(of, (each) => ({ ...each, period: { cycles: Math.round(cycles) } }))
            }}
          />
        ) : (
          <NumberField
            label="Frames of one cycle"
            hideLabel
            className="flex-1"
            value={motion.period.frames}
            unit="frames"
            step={1}
            min={0.01}
            max={1e6}
            context={clock}
            onChange={(frames) => changeMotion(of, (each) => ({ ...each, period: { frames } }))}
          />
        )}
      </div>
      <NumberField
        label="phase"
        value={motion.phase}
        unit="share"
        step={0.01}
        min={0}
        max={1}
        context={clock}
        onGesture={gesture}
        onChange={(phase) => changeMotion(of, (each) => ({ ...each, phase }))}
      />
      {motion.after === 'accumulate' && property.type === 'number' && (
        <NumberField
          label="travel"
          value={travel(motion as Motion<number>)}
          unit={property.unit}
          step={property.step}
          context={clock}
          onGesture={gesture}
          onChange={(wanted) => changeMotion(of, (each) => stretchTravel(each as Motion<number>, wanted))}
        />
      )}
    </fieldset>
  )
})
