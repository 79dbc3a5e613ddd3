'use client'

import { Eye, EyeOff, Focus, Move3d } from 'lucide-react'
import { useState } from 'react'
import { toast } from 'sonner'
import type { Rework } from '@/codecs/model'
import { changeLayer, type Layer } from '@/core/document'
import { addPart, exchangeModel, turningAbout } from '@/core/edit'
import type { Model } from '@/core/media'
import { type GatheredFault, lengthOf, toScale, type Vector } from '@/core/solid'
import { changeLoop, currentLoop } from '@/store/document'
import { setSession } from '@/store/session'
import { reworkModel } from '../../model-files'
import { classNames } from '../../parts'

/** Number of parts listed before the others are asked for. */
const SHOWN_PARTS = 60
const MAX_PART_NAME = 100

const sizeOf = ({ bounds }: Model): number =>
  lengthOf([0, 1, 2].map((axis) => (bounds[3 + axis] as number) - (bounds[axis] as number)) as unknown as Vector)

/** Mend of each fault, and the words of its button. */
const REMEDIES: Readonly<
  Record<GatheredFault['kind'], (fault: GatheredFault, model: Model) => { readonly says: string; readonly how: Rework }>
> = {
  unnamed: () => ({ says: 'Name them', how: { to: 'name' } }),
  doubled: () => ({ says: 'A name for each', how: { to: 'name' } }),
  'empty-group': ({ nodes }) => ({ says: 'Take out', how: { to: 'remove', nodes } }),
  'no-area': ({ nodes }) => ({ says: 'Take out', how: { to: 'remove', nodes } }),
  flipped: ({ nodes }) => ({ says: 'Turn faces round', how: { to: 'flip', nodes } }),
  'out-of-scale': (_, model) => {
    const by = toScale(sizeOf(model))
    const times = (by > 1 ? by : 1 / by).toLocaleString('en', { maximumFractionDigits: 0 })
    return { says: `${times} times ${by > 1 ? 'larger' : 'smaller'}`, how: { to: 'scale', by } }
  },
}

/** Faults of a model with their mends, and its parts. */
export function ModelParts({ layer, model }: { layer: Layer; model: Model }) {
  const [busy, setBusy] = useState(false)
  const [chosen, setChosen] = useState<readonly string[]>([])
  const rework = async (how: Rework) => {
    setBusy(true)
    try {
      const made = await reworkModel(model, how)
      // Another loop may have been opened meanwhile, or the model changed otherwise.
      const now = currentLoop()?.media.find(({ id }) => id === model.id) as Model | undefined
      if (now?.file.id === model.file.id) changeLoop((loop) => exchangeModel(loop, made))
      setChosen([])
    } catch (error) {
      toast.error((error as Error).message, { duration: 12_000 })
    } finally {
      setBusy(false)
    }
  }
  const there = model.parts.filter(({ name }) => chosen.includes(name))
  return (
    <>
      <Faults model={model} busy={busy} rework={rework} />
      <PartList layer={layer} model={model} chosen={chosen} choose={setChosen} />
      {there.length > 0 && (
        <ChosenParts key={chosen.join()} layer={layer} model={model} parts={there} busy={busy} rework={rework} />
      )}
      {busy && (
        <p className="dim text-2xs" role="status">
          Reading the model …
        </p>
      )}
    </>
  )
}

interface ReworkProps {
  readonly model: Model
  readonly busy: boolean
  readonly rework: (how: Rework) => void
}

function Faults({ model, busy, rework }: ReworkProps) {
  const { faults = [] } = model
  if (faults.length === 0) return null
  return (
    <ul className="space-y-1 pt-2" aria-label="What is wrong with the model">
      {faults.map((fault) => {
        const { says, how } = REMEDIES[fault.kind](fault, model)
        return (
          <li key={fault.kind} className="flex items-start gap-2 text-xs">
            <span className="min-w-0 flex-1 text-warning">{fault.message}</span>
            <button type="button" className="btn btn-neutral btn-xs" disabled={busy} onClick={() => rework(how)}>
              {says}
            </button>
          </li>
        )
      })}
    </ul>
  )
}

/** Actions on the parts chosen in the list. */
function ChosenParts({
  layer,
  model,
  parts,
  busy,
  rework,
}: ReworkProps & { readonly layer: Layer; readonly parts: Model['parts'] }) {
  const [only] = parts.length === 1 ? parts : []
  const [name, setName] = useState(only?.name ?? 'Group')
  const taken = model.parts.some((part) => part.name === name.trim() && part !== only)
  const fits = name.trim().length > 0 && !taken && name.trim() !== only?.name
  return (
    <form
      className="flex flex-wrap items-center gap-1 pt-1"
      onSubmit={(event) => {
        event.preventDefault()
        if (!fits || busy) return
        const own = name.trim()
        rework(
          only
            ? { to: 'rename', node: only.node, name: own }
            : { to: 'group', nodes: parts.map(({ node }) => node), name: own },
        )
      }}
    >
      <input
        className="input input-xs min-w-0 flex-1"
        aria-label={only ? 'Name of the part' : 'Name of the group'}
        value={name}
        maxLength={MAX_PART_NAME}
        onChange={(event) => setName(event.target.value)}
      />
      <button type="submit" className="btn btn-neutral btn-xs" disabled={!fits || busy}>
        {only ? 'Rename' : `Group ${parts.length}`}
      </button>
      {only && (
        <button
          type="button"
          className="btn btn-neutral btn-xs"
          onClick={() =>
            changeLoop((loop) => changeLayer(loop, layer.id, (each) => turningAbout(each, model, only.name)))
          }
        >
          Turn about it
        </button>
      )}
      {taken && <p className="w-full text-2xs text-error">Another part has this name.</p>}
    </form>
  )
}

function PartList({
  layer,
  model,
  chosen,
  choose,
}: {
  readonly layer: Layer
  readonly model: Model
  readonly chosen: readonly string[]
  readonly choose: (names: readonly string[]) => void
}) {
  const depth = (i: number): number => {
    const within = model.parts[i]?.within ?? -1
    return within < 0 ? 0 : 1 + depth(within)
  }
  const moved = new Map((layer.layers ?? []).map((each) => [each.values.part, each]))
  const take = (name: string, seen?: string) => {
    let id = ''
    changeLoop((current) => {
      const made = addPart(current, layer.id, name)
      if (!made) return current
      id = made.id
      if (!seen) return made.loop
      return changeLayer(made.loop, id, (each) => ({
        ...each,
        values: { ...each.values, seen: each.values.seen === seen ? 'seen' : seen },
      }))
    })
    if (id && !seen) setSession({ selection: [id] })
  }
  return (
    <fieldset className="pt-2">
      <legend className="dim float-left mb-1 w-full text-2xs">
        {model.parts.length === 1 ? 'One part' : `${model.parts.length} parts`}, {model.triangles.toLocaleString('en')}{' '}
        triangles
      </legend>
      <ul className="clear-both max-h-56 overflow-y-auto" aria-label="Parts of the model">
        {model.parts.slice(0, SHOWN_PARTS).map(({ name, triangles }, i) => {
          const own = moved.get(name)
          const seen = own?.values.seen ?? 'seen'
          const isChosen = chosen.includes(name)
          return (
            <li key={name} className="flex items-center gap-1 text-xs" style={{ paddingInlineStart: 8 * depth(i) }}>
              <button
                type="button"
                className={classNames(
                  'min-w-0 flex-1 cursor-pointer truncate rounded px-1 text-start hover:bg-base-300',
                  seen === 'hidden' && 'dim line-through',
                  isChosen && 'bg-base-300 text-primary',
                )}
                title={`${name}: choose it, to name it, to turn about it, or to group it with others`}
                aria-pressed={isChosen}
                onClick={() => choose(isChosen ? chosen.filter((each) => each !== name) : [...chosen, name])}
              >
                {name}
              </button>
              <span className="dim figures text-2xs">{triangles.toLocaleString('en')}</span>
              <button
                type="button"
                className={classNames('btn btn-ghost btn-xs btn-square', own && 'text-primary')}
                aria-label={`Move ${name} by itself`}
                title={`Move ${name} by itself`}
                onClick={() => take(name)}
              >
                <Move3d size={13} aria-hidden="true" />
              </button>
              <button
                type="button"
                className="btn btn-ghost btn-xs btn-square"
                aria-label={seen === 'hidden' ? `Show ${name}` : `Hide ${name}`}
                title={seen === 'hidden' ? `Show ${name}` : `Hide ${name}`}
                aria-pressed={seen === 'hidden'}
                onClick={() => take(name, 'hidden')}
              >
                {seen === 'hidden' ? <EyeOff size={13} aria-hidden="true" /> : <Eye size={13} aria-hidden="true" />}
              </button>
              <button
                type="button"
                className={classNames('btn btn-ghost btn-xs btn-square', seen === 'alone' && 'text-primary')}
                aria-label={`Show ${name} alone`}
                title={`Show ${name} alone`}
                aria-pressed={seen === 'alone'}
                onClick={() => take(name, 'alone')}
              >
                <Focus size={13} aria-hidden="true" />
              </button>
            </li>
          )
        })}
        {model.parts.length > SHOWN_PARTS && (
          <li className="dim text-2xs">
            and {model.parts.length - SHOWN_PARTS} more, which move with those they stand in
          </li>
        )}
      </ul>
    </fieldset>
  )
}
