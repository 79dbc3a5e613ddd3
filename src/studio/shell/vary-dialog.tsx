'use client'

import { useRouter } from 'next/navigation'
import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import { type Loop, MAX_NAME, type VariantChange } from '@/core/document'
import { changeWords, makeVariant, NO_CHANGE } from '@/core/edit'
import { useDocument } from '@/store/document'
import { saveLoop } from '@/store/library'
import { setSession, useSession } from '@/store/session'
import { ColourField, Dialog, NumberField } from '../parts'

/** Makes variants of the loop in one step: other colours, faster or slower, backwards, later. They follow it until parted. */
export function VaryDialog() {
  const open = useSession((session) => session.varying)
  const document = useDocument()
  const close = () => setSession({ varying: false, preview: null })
  return (
    <Dialog title={`A variant of ${document?.name ?? 'the loop'}`} open={open && document !== null} onClose={close}>
      {document && <Choices source={document} onDone={close} />}
    </Dialog>
  )
}

function Choices({ source, onDone }: { source: Loop; onDone: () => void }) {
  const router = useRouter()
  const [change, setChange] = useState<VariantChange>(NO_CHANGE)
  const [name, setName] = useState('')
  const clock = useMemo(() => ({ rate: source.rate, length: source.length }), [source.rate, source.length])
  const set = (part: Partial<VariantChange>) => setChange((before) => ({ ...before, ...part }))
  const words = changeWords(change)
  const wanted = name.trim() || `${source.name}, ${words}`.slice(0, MAX_NAME)
  const make = async () => {
    const variant = makeVariant(source, wanted, change)
    try {
      await saveLoop(variant)
      toast.success(`${variant.name} is in the library and follows ${source.name}.`, {
        action: { label: 'Open it', onClick: () => router.push(`/loop/${variant.id}/compose`) },
        duration: 12_000,
      })
      onDone()
    } catch (error) {
      toast.error((error as Error).message)
    }
  }
  return (
    <form
      className="space-y-2"
      onSubmit={(event) => {
        event.preventDefault()
        void make()
      }}
    >
      <label className="flex items-center gap-1.5">
        <span className="dim w-19 shrink-0">name</span>
        <input
          className="input input-xs w-full bg-transparent px-1.5"
          value={name}
          placeholder={wanted}
          maxLength={MAX_NAME}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <NumberField
        label="faster"
        value={change.faster}
        unit="×"
        step={1}
        min={1}
        max={100}
        context={clock}
        onChange={(value) => set({ faster: Math.round(value) })}
      />
      <NumberField
        label="slower"
        value={change.longer}
        unit="×"
        step={1}
        min={1}
        max={100}
        context={clock}
        onChange={(value) => set({ longer: Math.round(value) })}
      />
      <NumberField
        label="starts at"
        value={change.phase}
        unit="share"
        step={0.05}
        min={0}
        max={1}
        context={clock}
        onChange={(phase) => set({ phase })}
      />
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="toggle toggle-xs"
          checked={change.reversed}
          onChange={(event) => set({ reversed: event.target.checked })}
        />
        backwards
      </label>
      {source.palette.map((each) => (
        <ColourField
          key={each.name}
          label={each.name}
          value={change.palette[each.name] ?? each.colour}
          onChange={(colour) => colour && set({ palette: { ...change.palette, [each.name]: colour } })}
        />
      ))}
      {source.palette.length === 0 && (
        <p className="dim text-xs">
          Give colours of the loop names, with nothing selected in Compose, and variants can swap them.
        </p>
      )}
      <p className="dim text-xs">
        {words}: {source.length * change.longer} f. It stays linked: what you change in {source.name} shows in it too.
      </p>
      <button type="submit" className="btn btn-primary btn-sm">
        Make the variant
      </button>
    </form>
  )
}
