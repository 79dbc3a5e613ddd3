import { RotateCcw, Save, Trash2 } from 'lucide-react'
import { useEffect, useState } from 'react'
import { toast } from 'sonner'
import { newId } from '@/core/id'
import { TARGETS, type Target } from '@/core/output'
import { useExport } from '@/store/export'
import { listTargets, removeTarget, saveTarget } from '@/store/targets'
import { ChoiceField, IconButton } from '../parts'

const UNREADABLE = 'The browser’s storage cannot be used: only the targets that are there from the beginning are shown.'

/** Purpose of the file: settings and a weight under a name, which can be changed and kept. */
export function TargetBar() {
  const { settings, limit } = useExport()
  const [targets, setTargets] = useState<readonly Target[]>(TARGETS)
  const [chosen, setChosen] = useState('')
  const [name, setName] = useState<string | null>(null)
  useEffect(() => void listTargets().then(setTargets, () => toast.error(UNREADABLE)), [])
  const target = targets.find(({ id }) => id === chosen)
  const first = TARGETS.find(({ id }) => id === chosen)
  const attempt = async (work: () => Promise<unknown>, said: string) => {
    try {
      await work()
      setTargets(await listTargets())
      toast.success(said)
    } catch {
      toast.error('The browser’s storage cannot be used: the target was not saved.')
    }
  }
  const take = (id: string) => {
    setChosen(id)
    const next = targets.find((each) => each.id === id)
    if (next) useExport.setState({ settings: next.settings, ...(next.limit ? { limit: next.limit } : {}) })
  }
  const keep = (id: string, called: string) =>
    attempt(() => saveTarget({ id, name: called, settings, limit }), `“${called}” is kept as a target.`)
  const commit = async () => {
    const called = name?.trim().slice(0, 80)
    setName(null)
    if (!called) return
    const id = newId()
    await keep(id, called)
    setChosen(id)
  }
  return (
    <div className="space-y-1">
      <div className="flex items-center gap-0.5">
        <ChoiceField
          className="flex-1"
          label="target"
          value={chosen}
          options={['', ...targets.map(({ id }) => id)]}
          names={{ '': 'none: as set below', ...Object.fromEntries(targets.map(({ id, name: own }) => [id, own])) }}
          onChange={take}
        />
        {target && (
          <IconButton
            icon={Save}
            label={`Keep these settings as “${target.name}”`}
            onClick={() => keep(target.id, target.name)}
          />
        )}
        {target && (
          <IconButton
            icon={first ? RotateCcw : Trash2}
            label={first ? `“${target.name}” as it was at first` : `Take “${target.name}” away`}
            onClick={() => {
              void attempt(
                () => removeTarget(target.id),
                first ? `“${first.name}” is as it was.` : `“${target.name}” is gone.`,
              )
              if (first)
                useExport.setState({ settings: first.settings, ...(first.limit ? { limit: first.limit } : {}) })
              else setChosen('')
            }}
          />
        )}
      </div>
      {name === null ? (
        <button type="button" className="btn btn-ghost btn-xs ms-20 font-normal" onClick={() => setName('')}>
          Keep these settings as a new target …
        </button>
      ) : (
        <input
          className="input input-xs ms-20 w-48"
          aria-label="Name of the target"
          placeholder="name, then Enter"
          autoFocus
          value={name}
          maxLength={80}
          onChange={(event) => setName(event.target.value)}
          onBlur={() => setName(null)}
          onKeyDown={(event) => {
            if (event.key === 'Enter') void commit()
            if (event.key === 'Escape') setName(null)
          }}
        />
      )}
    </div>
  )
}
