'use client'

import { useRouter } from 'next/navigation'
import { toast } from 'sonner'
import { fraction } from '@/core/clock'
import type { Loop } from '@/core/document'
import { newLoop, paceOf, paceWords } from '@/core/edit'
import { type Clip, clipSeconds, clockOfClip } from '@/core/media'
import { openUnsaved } from '@/store/autosave'
import { useClip } from '@/store/clip'
import { cinemagraphOf, type Masked, placedClip, regionIn } from '@/store/clip-placed'
import { changeLoop, currentLoop, documentStore, useOpenLoop } from '@/store/document'
import { BRUSH_TOOL, setSession } from '@/store/session'

/** The rate of a loop for a clip whose own delays are on no clock. */
const FIRST_RATE = 25

/** An empty loop in which a clip runs once: each of its frames lasts a whole number of the loop's. */
function loopFor(clip: Clip, transparent: boolean): Loop {
  const clock = clockOfClip(clip.delaysMs) ?? {
    rate: fraction(FIRST_RATE),
    length: Math.max(1, Math.round(FIRST_RATE * clipSeconds(clip))),
  }
  const { name, width, height } = clip
  return newLoop({ name, kind: 'cinemagraph', width, height, background: transparent ? null : '#0b2230', ...clock })
}

/** The mended clip becomes a layer: of a loop of its own, or of the one that is open. */
export function PlaceInLoop({ frame }: { readonly frame: number }) {
  const { facts, working } = useClip()
  const open = useOpenLoop()
  const router = useRouter()
  if (!facts) return null
  const place = async (anew: boolean) => {
    const placed = await placedClip((clip) => {
      const host = anew ? null : currentLoop()
      return host ?? loopFor(clip, facts.transparent)
    })
    if (!placed) return
    const { loop, layer, clip, how } = placed
    const cycle = Math.max(1e-3, clipSeconds(clip))
    if (anew) await openUnsaved(loop)
    else if (!changeLoop(() => loop)) return
    setSession({ selection: [layer.id], property: 'time', tool: null })
    toast.success(`${layer.name} is a layer now.`, {
      description: [`Its frames are kept ${how}.`, paceWords(paceOf(loop, cycle))].filter(Boolean).join(' '),
    })
    router.push(`/loop/${documentStore.getState().loop?.id}/compose`)
  }
  const add = async () => {
    const host = currentLoop()
    const made = host && (await regionIn(host))
    if (!made || !changeLoop(() => made.loop)) return
    setSession({ selection: [made.mask], property: null, tool: BRUSH_TOOL })
    toast.success(`${made.clip.name} is a region of ${host.name} now.`, {
      description: [
        made.aligned === true && 'It lies where it shows what the still shows.',
        made.aligned === false && 'The still shows another view: it lies in the middle.',
        paceWords(paceOf(made.loop, Math.max(1e-3, clipSeconds(made.clip)))) || 'It runs at its own pace.',
      ]
        .filter(Boolean)
        .join(' '),
    })
    router.push(`/loop/${host.id}/compose`)
  }
  const hold = async (masked: Masked) => {
    const made = await cinemagraphOf(frame, masked, (clip) => loopFor(clip, facts.transparent))
    if (!made) return
    await openUnsaved(made.loop)
    setSession({ selection: [made.mask], property: null, tool: BRUSH_TOOL })
    toast.success(`${made.clip.name} is held still at frame ${frame}.`, {
      description: 'Paint what is to move; Alt takes away, [ and ] change the size.',
    })
    router.push(`/loop/${documentStore.getState().loop?.id}/compose`)
  }
  const ways = [
    { says: 'Make a loop of it', about: undefined, make: () => place(true) },
    {
      says: `Hold frame ${frame} still, paint what moves`,
      about: 'A cinemagraph: this frame, and the clip where you paint',
      make: () => hold('by hand'),
    },
    {
      says: `Hold frame ${frame} still but for what moves`,
      about: 'A cinemagraph: what moves in the clip is painted already, and can be painted on',
      make: () => hold('what moves'),
    },
    ...(open
      ? [
          { says: `Place it in “${open.name}”`, about: undefined, make: () => place(false) },
          {
            says: `Add what moves to “${open.name}”`,
            about: 'One more region of it, with a cut and a period of its own',
            make: add,
          },
        ]
      : []),
  ]
  return (
    <div className="flex flex-col gap-1" role="group" aria-label="Place it">
      {ways.map(({ says, about, make }) => (
        <button
          key={says}
          type="button"
          className="btn btn-neutral btn-sm font-normal"
          disabled={working !== null}
          title={about}
          onClick={() => void make()}
        >
          <span className="truncate">{says}</span>
        </button>
      ))}
    </div>
  )
}
