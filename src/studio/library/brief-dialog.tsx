'use client'

import { zodResolver } from '@hookform/resolvers/zod'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { Controller, useForm } from 'react-hook-form'
import * as z from 'zod/mini'
import { type Clock, type ClockField, fraction } from '@/core/clock'
import { isColour } from '@/core/colour'
import { type Layer, LOOP_KINDS, type Loop, MAX_NAME, MAX_SIZE, places } from '@/core/document'
import { begunLoop, begunWith } from '@/core/edit'
import { layerKind } from '@/core/layers'
import { textThat } from '@/core/schemas'
import { openUnsaved } from '@/store/autosave'
import { documentStore } from '@/store/document'
import { BRUSH_TOOL, setSession } from '@/store/session'
import { ClockFields } from '../clock/clock-fields'
import { ColourField, Dialog } from '../parts'
import { ASKED, AskedFiles, mediumOf } from './asked-files'
import { writeAsVideo } from './open-turntable'
import { Starts } from './starts'

const size = (side: string) => {
  const message = `the ${side} is a whole number of pixels from 1 to ${MAX_SIZE}`
  return z.coerce.number<number>(message).check(z.int(message), z.gte(1, message), z.lte(MAX_SIZE, message))
}
const briefSchema = z.object({
  name: z.string().check(z.trim(), z.minLength(1, 'give it a name'), z.maxLength(MAX_NAME)),
  kind: z.enum(LOOP_KINDS),
  width: size('width'),
  height: size('height'),
  background: z.nullable(textThat(isColour, 'not a colour')),
})
type BriefForm = z.infer<typeof briefSchema>

const propertiesOf = ({ kind }: Layer) => Object.values(layerKind(kind).properties)

const KIND_WORDS: Record<(typeof LOOP_KINDS)[number], string> = {
  loader: 'waits, for an app or a page',
  texture: 'a pattern or a background',
  cinemagraph: 'a still in which one thing moves',
  turntable: 'an object that turns',
}

/** Files that were chosen for a kind of loop. */
interface Chosen {
  readonly kind: (typeof LOOP_KINDS)[number]
  readonly files: readonly File[]
}

/** Asks what a new loop is to be, and opens it. */
interface BriefProps {
  /** Loops of the library that new ones can begin with. */
  readonly own: readonly Loop[]
  readonly onClose: () => void
}

export function BriefDialog({ open, own, onClose }: BriefProps & { readonly open: boolean }) {
  return (
    <Dialog title="New loop" open={open} onClose={onClose} wide>
      <BriefFields own={own} onClose={onClose} />
    </Dialog>
  )
}

function BriefFields({ own, onClose }: BriefProps) {
  const router = useRouter()
  const [clock, setClock] = useState<Clock>({ rate: fraction(30), length: 60 })
  const [fixed, setFixed] = useState<ClockField>('rate')
  const [start, setStart] = useState<string | undefined>(undefined)
  const [chosen, setChosen] = useState<Chosen | null>(null)
  const [fileProblem, setFileProblem] = useState<string | null>(null)
  const { register, handleSubmit, control, formState, watch, setValue } = useForm<BriefForm>({
    resolver: zodResolver(briefSchema),
    defaultValues: { name: 'Untitled loop', kind: 'loader', width: 480, height: 480, background: '#0a2231' },
  })
  const { errors, isSubmitting } = formState
  const submit = handleSubmit(async (brief) => {
    try {
      const asked = { ...brief, ...clock }
      const begun = own.find(({ id }) => id === start)
      const loop = begun
        ? begunWith(begun, asked)
        : begunLoop(asked, start, await mediumOf(brief.kind, chosen?.kind === brief.kind ? chosen.files : []))
      await openUnsaved(loop)
      // The brush is in the hand: what is painted first is where it is to be seen.
      const mask = [...places(loop.layers)].find(({ layer }) =>
        propertiesOf(layer).some(({ type }) => type === 'strokes'),
      )
      if (mask) setSession({ selection: [mask.layer.id], tool: BRUSH_TOOL })
      if (brief.kind === 'turntable') {
        setSession({ selection: loop.layers.map(({ id }) => id) })
        writeAsVideo()
      }
    } catch (error) {
      setFileProblem((error as Error).message)
      return
    }
    onClose()
    router.push(`/loop/${documentStore.getState().loop?.id}/compose`)
  })
  const numberField = (name: 'width' | 'height') => (
    <label className="flex items-center gap-2">
      <span className="dim w-14">{name}</span>
      <span className="input input-sm flex w-28 items-center gap-1 bg-transparent">
        <input className="figures w-full" inputMode="numeric" aria-invalid={!!errors[name]} {...register(name)} />
        <span className="dim figures">px</span>
      </span>
    </label>
  )
  const kind = watch('kind')
  const asked = ASKED[kind]
  // A file chosen for another kind does not count.
  const files = chosen?.kind === kind ? chosen.files : []
  const take = (taken: readonly File[]) => {
    setChosen({ kind, files: taken })
    setFileProblem(null)
  }
  const choose = (name: string) => {
    setStart(name)
    const begun = own.find(({ id }) => id === name)
    if (!begun) return
    // It begins as it is; what is changed then is changed in it.
    for (const field of ['width', 'height', 'background'] as const) setValue(field, begun[field])
    setClock({ rate: begun.rate, length: begun.length })
  }
  const problem = errors.name ?? errors.width ?? errors.height ?? errors.background

  return (
    <form onSubmit={submit} className="space-y-4" noValidate>
      <label className="flex items-center gap-2">
        <span className="dim w-14">name</span>
        <input className="input input-sm w-full bg-transparent" aria-invalid={!!errors.name} {...register('name')} />
      </label>
      <fieldset>
        <legend className="dim mb-1.5">kind</legend>
        <div className="grid grid-cols-2 gap-x-6 gap-y-1.5">
          {LOOP_KINDS.map((kind) => (
            <label key={kind} className="flex cursor-pointer items-baseline gap-2">
              <input type="radio" value={kind} className="radio radio-xs translate-y-0.5" {...register('kind')} />
              <span>
                {kind} <span className="dim">— {KIND_WORDS[kind]}</span>
              </span>
            </label>
          ))}
        </div>
      </fieldset>
      {asked && <AskedFiles key={kind} asked={asked} chosen={files} onChoose={take} onProblem={setFileProblem} />}
      {fileProblem && (
        <p role="alert" className="text-error">
          {fileProblem}
        </p>
      )}
      <Starts brief={{ ...watch(), ...clock }} own={own} chosen={start} onChoose={choose} />
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        {numberField('width')}
        {numberField('height')}
        <Controller
          control={control}
          name="background"
          render={({ field }) => (
            <div className="w-72">
              <ColourField label="background" value={field.value} noneLabel="transparent" onChange={field.onChange} />
            </div>
          )}
        />
      </div>
      <ClockFields clock={clock} fixed={fixed} onChange={setClock} onFix={setFixed} />
      {problem && (
        <p role="alert" className="text-error">
          {problem.message}
        </p>
      )}
      <div className="flex justify-end gap-2 pt-1">
        <button type="button" className="btn btn-neutral btn-sm" onClick={onClose}>
          Cancel
        </button>
        <button type="submit" className="btn btn-primary btn-sm" disabled={isSubmitting}>
          Make the loop
        </button>
      </div>
    </form>
  )
}
