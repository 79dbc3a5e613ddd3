'use client'

import { Plus, X } from 'lucide-react'
import { useMemo, useState } from 'react'
import { colourName, namedColour } from '@/core/colour'
import { type Loop, MAX_NOTE, MAX_SIZE, mapColours, type NamedColour, NO_BLUR } from '@/core/document'
import { changeLoop, useInside } from '@/store/document'
import { setSession, useSession } from '@/store/session'
import { ColourField, IconButton, NumberField, PanelHeading } from '../../parts'
import { gesture } from '../motion/motion-of'
import { AddEffect } from './add-effect'
import { WordsField } from './words-field'

/** The properties of the loop itself: its frame, its named colours and the blur of its frames. */
export function LoopPanel({ loop }: { loop: Loop }) {
  const clock = useMemo(() => ({ rate: loop.rate, length: loop.length }), [loop.rate, loop.length])
  const inside = useInside()
  const size = (name: 'width' | 'height') => (
    <NumberField
      label={name}
      value={loop[name]}
      unit="px"
      step={1}
      min={1}
      max={MAX_SIZE}
      context={clock}
      onChange={(value) => changeLoop((current) => ({ ...current, [name]: Math.round(value) }))}
    />
  )
  return (
    <section className="flex h-full min-h-0 flex-col bg-base-100" aria-label="Properties">
      <PanelHeading title={loop.name} />
      <div className="min-h-0 flex-1 space-y-3 overflow-y-auto px-3 pt-2 pb-3">
        <fieldset className="space-y-1">
          <legend className="dim mb-1 text-2xs">Frame</legend>
          {size('width')}
          {size('height')}
          <ColourField
            label="background"
            value={loop.background}
            noneLabel="none"
            onChange={(background) => changeLoop((current) => ({ ...current, background }))}
            onGesture={gesture}
          />
        </fieldset>
        <NamedColours loop={loop} />
        {inside === null && <BlurFields loop={loop} />}
        <AddEffect on={null} />
        {inside === null && (
          <WordsField
            label="note"
            value={loop.note ?? ''}
            most={MAX_NOTE}
            onChange={(note) =>
              changeLoop(({ note: _was, ...own }) => ({ ...own, ...(note.trim() && { note: note.trim() }) }))
            }
          />
        )}
        <p className="dim text-xs">Select a layer to see its properties.</p>
      </div>
    </section>
  )
}

function BlurFields({ loop }: { loop: Loop }) {
  const { shutter, samples } = loop.blur
  const showBlur = useSession((session) => session.showBlur)
  const clock = useMemo(() => ({ rate: loop.rate, length: loop.length }), [loop.rate, loop.length])
  const set = (blur: Partial<Loop['blur']>) =>
    changeLoop((current) => ({ ...current, blur: { ...current.blur, ...blur } }))
  return (
    <fieldset className="space-y-1">
      <legend className="dim mb-1 text-2xs">Blur in the frame</legend>
      <NumberField
        label="shutter"
        value={shutter}
        unit="°"
        step={15}
        min={0}
        max={720}
        context={clock}
        onChange={(value) => set({ shutter: value })}
      />
      {shutter > 0 && (
        <>
          <NumberField
            label="samples"
            value={samples}
            unit=""
            step={1}
            min={2}
            max={64}
            context={clock}
            onChange={(value) => set({ samples: Math.round(value) })}
          />
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="toggle toggle-xs"
              checked={showBlur}
              onChange={(event) => setSession({ showBlur: event.target.checked })}
            />
            show it on the stage
          </label>
        </>
      )}
      <p className="dim text-2xs">
        {shutter > 0
          ? `Every frame is the mean of ${samples} moments in ${Number(((100 * shutter) / 360).toFixed(0))} % of a frame’s time, across the seam too.`
          : `0° is sharp; 180° is open for half of every frame. ${NO_BLUR.samples} samples to begin with.`}
      </p>
    </fieldset>
  )
}

const NAMES = ['lamp', 'sea', 'glass', 'coral', 'cream', 'ink', 'deep', 'sand']
const freeColourName = (palette: readonly NamedColour[]): string => {
  const taken = new Set(palette.map(({ name }) => name))
  return NAMES.find((name) => !taken.has(name)) ?? `colour-${palette.length + 1}`
}

/** Every part of the document that shows colours, changed alike. */
const recoloured = (loop: Loop, map: (colour: string) => string): Loop => ({
  ...loop,
  background: loop.background && map(loop.background),
  layers: loop.layers.map((layer) => mapColours(layer, map)),
  loops: loop.loops.map((inner) => ({
    ...inner,
    background: inner.background && map(inner.background),
    layers: inner.layers.map((layer) => mapColours(layer, map)),
  })),
})

/** Colours with names, which layers use; one change here changes all of them. */
function NamedColours({ loop }: { loop: Loop }) {
  const { palette } = loop
  const [problem, setProblem] = useState<string | null>(null)
  const change = (index: number, next: NamedColour | null) =>
    changeLoop((current) => {
      const before = current.palette[index]
      if (!before) return current
      const kept = current.palette.flatMap((each, i) => (i !== index ? each : (next ?? [])))
      const from = namedColour(before.name)
      const to = next ? namedColour(next.name) : before.colour
      return { ...(from === to ? current : recoloured(current, (text) => (text === from ? to : text))), palette: kept }
    })
  const rename = (index: number, name: string) => {
    const wanted = name.trim().toLowerCase().replaceAll(/\s+/g, '-')
    const taken = palette.some((each, i) => i !== index && each.name === wanted)
    const valid = colourName(namedColour(wanted)) !== null
    setProblem(!valid ? 'a name has letters, digits and hyphens' : taken ? 'another colour has this name' : null)
    const [own] = palette.slice(index, index + 1)
    if (valid && !taken && own) change(index, { ...own, name: wanted })
  }
  return (
    <fieldset className="space-y-1">
      <legend className="dim mb-1 flex w-full items-center text-2xs">
        Named colours
        <IconButton
          icon={Plus}
          label="Add a named colour"
          className="ms-auto"
          onClick={() =>
            changeLoop((current) => ({
              ...current,
              palette: [...current.palette, { name: freeColourName(current.palette), colour: '#f2b54a' }],
            }))
          }
        />
      </legend>
      {palette.map(({ name, colour }, i) => (
        <div key={i} className="flex items-center gap-1">
          <input
            className="input input-xs w-18 min-w-0 bg-transparent px-1.5"
            aria-label={`Name of colour ${i + 1}`}
            defaultValue={name}
            key={name}
            onBlur={(event) => event.target.value !== name && rename(i, event.target.value)}
            onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          />
          <div className="min-w-0 flex-1">
            <ColourField
              label={`Colour ${name}`}
              hideLabel
              value={colour}
              onChange={(next) => next && colourName(next) === null && change(i, { name, colour: next })}
              onGesture={gesture}
            />
          </div>
          <IconButton icon={X} label={`Take the name ${name} away`} onClick={() => change(i, null)} />
        </div>
      ))}
      {problem && <p className="text-xs text-error">{problem}</p>}
      {palette.length === 0 && <p className="dim text-2xs">Layers use them by name; variants swap them.</p>}
    </fieldset>
  )
}
