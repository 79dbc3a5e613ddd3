'use client'

import { ChevronDown, ChevronsLeft, ChevronsRight, CirclePlus, Equal, Repeat2, Trash2 } from 'lucide-react'
import { useEffect, useMemo } from 'react'
import { changeLayer, findLayer, type Layer, type Loop } from '@/core/document'
import { movingNames, setMotion } from '@/core/edit'
import { propertyAt } from '@/core/evaluate'
import { layerKind } from '@/core/layers'
import type { MovingValue } from '@/core/motion'
import { changeLoop, useOpenLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { setSession, useSessionParts } from '@/store/session'
import { runCommand, shortcutOf } from '../../commands'
import { classNames, IconButton, PanelHeading } from '../../parts'
import { DenseTools } from '../curve/dense-tools'
import { MotionCurve } from '../curve/motion-curve'
import { AddMovement, MoreMovement } from './add-movement'
import { AllMotions } from './all-motions'
import { CycleFields } from './cycle-fields'
import { Homecoming } from './homecoming'
import { EventFields, TrembleFields } from './irregularity'
import { KeyTable } from './key-table'
import type { MotionOf } from './motion-of'
import { stillWords } from './still-words'

/** The motion of the chosen property: unrolled, with its cycle, its keys, and whether it comes home. */
export function MotionPanel({ loop }: { loop: Loop }) {
  const { selection, property: name } = useSessionParts('selection', 'property')
  const layer = selection.length === 1 ? findLayer(loop, selection[0] as string) : undefined
  const names = layer ? movingNames(layer) : []
  const chosen = name && names.includes(name) ? name : names[0]
  if (!layer || !chosen)
    return (
      <section className="h-full overflow-y-auto bg-base-100" aria-label="Motion">
        <PanelHeading title="Motion">
          <IconButton
            icon={ChevronDown}
            label="Fold the motions away"
            onClick={() => setSession({ motionOpen: false })}
          />
        </PanelHeading>
        <p className="dim p-3 text-xs">
          {layer
            ? `${stillWords(layer)} The small line beside a property gives it a motion, tied to the loop.`
            : 'Select a layer to see how it moves, or one of these motions.'}
        </p>
        {layer ? (
          <div className="max-w-120 px-3">
            <AddMovement loop={loop} layer={layer} />
          </div>
        ) : (
          <AllMotions loop={loop} />
        )}
      </section>
    )
  return <OpenMotion key={`${layer.id} ${chosen}`} loop={loop} layer={layer} name={chosen} />
}

function OpenMotion({ loop, layer, name }: { loop: Loop; layer: Layer; name: string }) {
  const open = useOpenLoop()
  const { rate, length } = loop
  const clock = useMemo(() => ({ rate, length }), [rate, length])
  useEffect(() => {
    setSession({ keys: [] })
    return () => setSession({ keys: [] })
  }, [])
  const { properties } = layerKind(layer.kind)
  const property = properties[name]
  const motion = layer.motions[name]
  if (!property) return null
  const of: MotionOf | null = motion ? { clock, layerId: layer.id, name, property, motion } : null
  const takeAway = () => {
    const value = propertyAt({ ...layer, trembles: {}, events: {} }, name, frameNow(), loop.length) as MovingValue
    changeLoop((current) => changeLayer(current, layer.id, (each) => setMotion(each, name, null, value)))
    setSession({ property: null })
  }
  return (
    <section className="flex h-full min-h-0 flex-col bg-base-100" aria-label="Motion">
      <PanelHeading title={`Motion of ${layer.name}`}>
        <div className="me-2 flex gap-0.5" role="group" aria-label="Moving properties">
          {movingNames(layer).map((each) => (
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
              {properties[each]?.label}
            </button>
          ))}
        </div>
        {of && (
          <>
            <IconButton
              icon={CirclePlus}
              label="Set a key at the playhead"
              shortcut={shortcutOf('set-key')}
              onClick={() => runCommand('set-key')}
            />
            <IconButton
              icon={ChevronsLeft}
              label="Half the speed, still closing"
              shortcut={shortcutOf('half-speed')}
              onClick={() => runCommand('half-speed')}
            />
            <IconButton
              icon={ChevronsRight}
              label="Twice the speed, still closing"
              shortcut={shortcutOf('double-speed')}
              onClick={() => runCommand('double-speed')}
            />
            <IconButton
              icon={Equal}
              label="Make the speed even"
              shortcut={shortcutOf('even-speed')}
              onClick={() => runCommand('even-speed')}
            />
            <IconButton
              icon={Repeat2}
              label="Reverse the chosen keys in time"
              shortcut={shortcutOf('reverse-keys')}
              onClick={() => runCommand('reverse-keys')}
            />
            <IconButton icon={Trash2} label={`Take the motion of ${property.label} away`} onClick={takeAway} />
          </>
        )}
      </PanelHeading>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_17.5rem]">
        {of ? (
          <MotionCurve {...of} />
        ) : (
          <p className="dim p-3 text-xs">
            {property.label} has no motion of its own: its tremble or event is set on the right.
          </p>
        )}
        <div className="hairline min-h-0 space-y-2 overflow-y-auto border-s px-3 py-2">
          {of && open && <Homecoming loop={open} layerId={layer.id} name={name} />}
          {of && <CycleFields {...of} />}
          {of && <DenseTools {...of} layer={layer} />}
          {of && <KeyTable {...of} />}
          <TrembleFields clock={clock} layer={layer} name={name} property={property} />
          <EventFields clock={clock} layer={layer} name={name} property={property} />
          <MoreMovement loop={loop} layer={layer} />
        </div>
      </div>
    </section>
  )
}
