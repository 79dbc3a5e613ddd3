'use client'

import { zodResolver } from '@hookform/resolvers/zod'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { Controller, useForm } from 'react-hook-form'
import * as z from 'zod/mini'
import { type Clock, type ClockField, fraction } from '@/core/clock'
import { isColour } from '@/core/colour'
import { type Layer, LONGEST_NAME, LOOP_KINDS, MAX_SIZE, places } from '@/core/document'
import { begunLoop, STARTS, type Start } from '@/core/edit'
import { layerKind } from '@/core/layers'
import { textThat } from '@/core/schemas'
import { openUnsaved } from '@/store/autosave'
import { documentStore } from '@/store/document'
import { BRUSH_TOOL, setSession } from '@/store/session'
import { ClockFields } from '../clock/clock-fields'
import { readPicture } from '../material'
import { modelAmong, readModelFile } from '../model-files'
import { ColourField, classNames, Dialog } from '../parts'
import { Sample } from '../parts/sample'
import { DEMO_MODELS, DEMO_STILLS, demoFile } from './demo-loops'
import { writeAsVideo } from './open-turntable'

const size = (side: string) => {
  const message = `the ${side} is a whole number of pixels from 1 to ${MAX_SIZE}`
  return z.coerce.number<number>(message).check(z.int(message), z.gte(1, message), z.lte(MAX_SIZE, message))
}
const briefSchema = z.object({
  name: z.string().check(z.trim(), z.minLength(1, 'give it a name'), z.maxLength(LONGEST_NAME)),
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

/** A file that a kind of loop is begun with. */
interface Asked {
  readonly kind: 'picture' | 'model'
  readonly label: string
  readonly accept: string
  readonly multiple: boolean
  readonly words: string
  readonly demo: readonly { readonly id: string; readonly name: string }[]
  /** Whether the files of the demo are pictures that can be shown. */
  readonly pictures: boolean
}

const ASKED: Partial<Record<(typeof LOOP_KINDS)[number], Asked>> = {
  cinemagraph: {
    kind: 'picture',
    label: 'its still',
    accept: 'image/png,image/jpeg,image/webp',
    multiple: false,
    words: 'a photograph in which one thing is to move; the loop takes its size',
    demo: DEMO_STILLS,
    pictures: true,
  },
  turntable: {
    kind: 'model',
    label: 'its model',
    accept: '.glb,.gltf,.obj,.stl,.ply,.zip,.mtl,.bin,.png,.jpg,.jpeg',
    multiple: true,
    words: 'glTF, OBJ, STL or PLY, with what lies beside it; it turns once a loop in the middle of the frame',
    demo: DEMO_MODELS,
    pictures: false,
  },
}

/** The still or the model that a loop is begun with; none where none was chosen. @throws Error in words where it cannot be read */
async function mediumOf(kind: (typeof LOOP_KINDS)[number], files: readonly File[]) {
  const [first] = files
  const asked = ASKED[kind]
  if (!asked || !first) return undefined
  if (asked.kind === 'picture') return readPicture(first)
  const model = (await modelAmong(files)) ?? { file: first, beside: [] }
  return (await readModelFile(model.file, model.beside)).model
}

/** Asks what a new loop is to be, and opens it. */
export function BriefDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog title="New loop" open={open} onClose={onClose} wide>
      <BriefFields onClose={onClose} />
    </Dialog>
  )
}

function BriefFields({ onClose }: { onClose: () => void }) {
  const router = useRouter()
  const [clock, setClock] = useState<Clock>({ rate: fraction(30), length: 60 })
  const [fixed, setFixed] = useState<ClockField>('rate')
  const [start, setStart] = useState<string | undefined>(undefined)
  const [chosen, setChosen] = useState<readonly File[]>([])
  const [fileProblem, setFileProblem] = useState<string | null>(null)
  const { register, handleSubmit, control, formState, watch } = useForm<BriefForm>({
    resolver: zodResolver(briefSchema),
    defaultValues: { name: 'Untitled loop', kind: 'loader', width: 480, height: 480, background: '#0a2231' },
  })
  const { errors, isSubmitting } = formState
  const submit = handleSubmit(async (brief) => {
    try {
      const loop = begunLoop({ ...brief, ...clock }, start, await mediumOf(brief.kind, chosen))
      await openUnsaved(loop)
      // The brush is in the hand: what is painted first is where it is to be seen.
      const mask = [...places(loop.layers)].find(({ layer }) =>
        propertiesOf(layer).some(({ type }) => type === 'strokes'),
      )
      if (mask) setSession({ selection: [mask.layer.id], tool: BRUSH_TOOL })
      const model = loop.layers.find(({ kind }) => kind === 'model')
      if (model) {
        setSession({ selection: [model.id] })
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
  const asked = ASKED[watch('kind')]
  const take = (files: readonly File[]) => {
    setChosen(files)
    setFileProblem(null)
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
      {asked && (
        <div className="flex flex-wrap items-center gap-2">
          <label className="flex items-center gap-2">
            <span className="dim w-14">{asked.label}</span>
            <input
              type="file"
              multiple={asked.multiple}
              accept={asked.accept}
              className="file-input file-input-sm bg-transparent"
              onChange={(event) => take([...(event.target.files ?? [])])}
            />
          </label>
          <span className="dim text-2xs">{asked.words}</span>
          <DemoFiles
            asked={asked}
            chosen={chosen[0]?.name}
            onChoose={(file) => take([file])}
            onProblem={setFileProblem}
          />
        </div>
      )}
      {fileProblem && (
        <p role="alert" className="text-error">
          {fileProblem}
        </p>
      )}
      <Starts starts={STARTS[watch('kind')] ?? []} chosen={start} onChoose={setStart} />
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

interface DemoFilesProps {
  readonly asked: Asked
  readonly chosen: string | undefined
  readonly onChoose: (file: File) => void
  readonly onProblem: (problem: string) => void
}

/** Files of the demo for those who have none at hand. */
function DemoFiles({ asked: { demo, kind, pictures }, chosen, onChoose, onProblem }: DemoFilesProps) {
  return (
    <span className="flex w-full gap-2 ps-16">
      {demo.map(({ id, name }) => (
        <button
          key={id}
          type="button"
          aria-pressed={chosen?.replace(/\.[^.]+$/, '') === id}
          className={classNames(
            'hairline cursor-pointer rounded-box border p-1 text-left hover:border-accent',
            chosen?.replace(/\.[^.]+$/, '') === id && 'outline-2 outline-primary',
          )}
          onClick={() => void demoFile(kind, id).then(onChoose, (error: Error) => onProblem(error.message))}
        >
          {pictures && (
            // biome-ignore lint/performance/noImgElement: a small picture of the application itself
            <img src={`/api/demo/${id}.jpg`} alt="" width={112} height={63} className="rounded-field" />
          )}
          <span className="mt-1 block px-1 text-2xs">{name}</span>
        </button>
      ))}
    </span>
  )
}

interface StartsProps {
  readonly starts: readonly Start[]
  readonly chosen: string | undefined
  readonly onChoose: (name: string) => void
}

/** What a loop of the kind can begin with, as pictures; nothing where it begins empty. */
function Starts({ starts, chosen, onChoose }: StartsProps) {
  if (starts.length === 0) return null
  const current = starts.find(({ name }) => name === chosen) ?? starts[0]
  return (
    <fieldset>
      <legend className="dim mb-1.5">begins with</legend>
      <div className="flex flex-wrap gap-2">
        {starts.map((each) => (
          <button
            key={each.name}
            type="button"
            aria-pressed={each === current}
            className={classNames(
              'hairline cursor-pointer rounded-box border p-1 text-left hover:border-accent',
              each === current && 'outline-2 outline-primary',
            )}
            onClick={() => onChoose(each.name)}
          >
            {SAMPLES.has(each) && <Sample width={144} height={81} draw={SAMPLES.get(each) ?? none} />}
            <span className="mt-1 block px-1 text-2xs">{each.label}</span>
          </button>
        ))}
      </div>
    </fieldset>
  )
}

/** A picture of the layer that is in front of a start. */
const sampleOf = (start: Start) => (width: number, height: number) => {
  const layer = start.layers({ width: 480, height: 270 }).at(-1)
  return (layer && layerKind(layer.kind).sample?.(layer.values, width, height)) ?? none(width, height)
}
const none = (width: number, height: number) => ({ width, height, data: new Uint8ClampedArray(4 * width * height) })
const SAMPLES = new Map(
  Object.values(STARTS)
    .flat()
    .filter((start) => start.layers({ width: 8, height: 8 }).every(({ kind }) => layerKind(kind).sample))
    .map((start) => [start, sampleOf(start)]),
)
