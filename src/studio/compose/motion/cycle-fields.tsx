'use client'

import { memo, useState } from 'react'
import { allLayers } from '@/core/document'
import { setAfter, startAtEndOf, switchPeriod } from '@/core/edit'
import { amountsOf, layerKind, mixingOf } from '@/core/layers'
import { AFTER_EACH_CYCLE, isTied, type Motion, movedPhase, periodFrames, stretchTravel, travel } from '@/core/motion'
import { currentLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { changeCycles } from '../../commands/motion'
import { ChoiceField, classNames, NumberField } from '../../parts'
import { changeMotion, type MotionOf } from './motion-of'

/** The cycle of a motion: what follows it, how long it is, where it starts, what it adds. */
export const CycleFields = memo(function CycleFields(of: MotionOf) {
  const { clock, motion, property } = of
  const tied = isTied(motion.period)
  const options = AFTER_EACH_CYCLE.filter((after) => after !== 'accumulate' || mixingOf(property).accumulates)
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
              onClick={() =>
                tied !== choice && changeMotion(of, (each, length) => switchPeriod(each, choice, frameNow(), length))
              }
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
            max={clock.length}
            context={clock}
            onChange={(cycles) => changeCycles(of.layerId, of.name, cycles)}
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
        unit="phase"
        step={0.01}
        context={{ ...clock, cycleFrames: periodFrames(motion.period, clock.length) }}
        // A cycle is a ring: a little before its start is near its end.
        onChange={(phase) => changeMotion(of, (each) => movedPhase(each, phase))}
      />
      <StartAtEnd layerId={of.layerId} name={of.name} />
      {motion.after === 'accumulate' && typeof motion.keys[0]?.value === 'number' && (
        <NumberField
          label="travel"
          value={travel(motion as Motion<number>)}
          {...amountsOf(property)}
          context={clock}
          onChange={(wanted) => changeMotion(of, (each) => stretchTravel(each as Motion<number>, wanted))}
        />
      )}
    </fieldset>
  )
})

/** Begins this motion when another one ends. The others are looked for only when they are asked for: there may be many. */
function StartAtEnd(of: Pick<MotionOf, 'layerId' | 'name'>) {
  const [others, setOthers] = useState<readonly { key: string; label: string; motion: Motion }[]>([])
  const look = () => {
    const loop = currentLoop()
    const found = (loop ? allLayers(loop) : []).flatMap((layer) =>
      Object.entries(layer.motions)
        .filter(([name]) => layer.id !== of.layerId || name !== of.name)
        .map(([name, motion]) => ({
          key: `${layer.id} ${name}`,
          label: `${layer.name} · ${layerKind(layer.kind).properties[name]?.label ?? name}`,
          motion,
        })),
    )
    setOthers(found)
  }
  return (
    <ChoiceField
      label="starts after"
      onOpen={look}
      value=""
      options={['', ...others.map(({ key }) => key)]}
      names={Object.fromEntries([['', 'nothing'], ...others.map(({ key, label }) => [key, label])])}
      onChange={(key) => {
        const other = others.find((each) => each.key === key)
        if (other) changeMotion(of, (each, length) => startAtEndOf(each, other.motion, length))
      }}
    />
  )
}
