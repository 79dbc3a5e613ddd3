'use client'

import { useEffect } from 'react'
import { create } from 'zustand'

/** Ground shown behind transparent frames everywhere: the weave, a plain colour, or a picture of the user's own. */
interface GroundState {
  readonly kind: (typeof KINDS)[number]
  readonly colour: string
  /** The address of the picture in this page; null for none. */
  readonly picture: string | null
}
const KINDS = ['weave', 'white', 'black', 'mid-grey', 'a colour', 'a picture'] as const

const useGround = create<GroundState>()(() => ({ kind: 'weave', colour: '#f7e9d0', picture: null }))

const PLAIN: Partial<Record<GroundState['kind'], string>> = {
  white: '#ffffff',
  black: '#000000',
  'mid-grey': '#808080',
}

/** The value of the CSS background that a ground is; null for the weave. */
function backgroundOf({ kind, colour, picture }: GroundState): string | null {
  if (kind === 'a colour') return colour
  if (kind === 'a picture') return picture && `center / cover no-repeat url("${picture}")`
  return PLAIN[kind] ?? null
}

async function choosePicture(): Promise<void> {
  try {
    const { fileOpen } = await import('browser-fs-access')
    const file = await fileOpen({ mimeTypes: ['image/*'], extensions: ['.png', '.jpg', '.jpeg', '.webp'] })
    const before = useGround.getState().picture
    if (before) URL.revokeObjectURL(before)
    useGround.setState({ kind: 'a picture', picture: URL.createObjectURL(file) })
  } catch (error) {
    if (!(error instanceof DOMException && error.name === 'AbortError')) throw error
  }
}

/** Chooses the ground on which what is transparent is looked at; nothing of it is part of a loop. */
export function GroundPicker() {
  const ground = useGround()
  const background = backgroundOf(ground)
  useEffect(() => {
    const { style, dataset } = document.documentElement
    if (background) {
      dataset.ground = 'own'
      style.setProperty('--ground', background)
    } else {
      delete dataset.ground
      style.removeProperty('--ground')
    }
  }, [background])
  return (
    <label className="flex items-center gap-1.5 text-xs">
      <span className="dim">on</span>
      <select
        aria-label="Ground that what is transparent is seen on"
        className="select select-xs w-24"
        value={ground.kind}
        onChange={(event) => {
          const kind = KINDS.find((each) => each === event.target.value) ?? 'weave'
          if (kind === 'a picture') void choosePicture()
          else useGround.setState({ kind })
        }}
      >
        {KINDS.map((kind) => (
          <option key={kind}>{kind}</option>
        ))}
      </select>
      {ground.kind === 'a colour' && (
        <input
          type="color"
          aria-label="Colour of the ground"
          className="size-6"
          value={ground.colour}
          onChange={(event) => useGround.setState({ colour: event.target.value })}
        />
      )}
    </label>
  )
}
