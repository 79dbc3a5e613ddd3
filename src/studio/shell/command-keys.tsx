'use client'

import { useEffect } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import type { Command, View } from '../commands'
import { walkWithin } from '../commands/panels'

/**
 * Whether what has the focus was pressed with the pointer. (`:focus-visible` does not tell: the key that asks has made it
 * true already.)
 */
let focusByPointer = false

/** Keeps in mind whether the focus came by the pointer; where it came by keys, arrows walk on within its panel. */
export function useFocusOrigin() {
  useEffect(() => {
    const onPointer = () => {
      focusByPointer = true
    }
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'Tab' || event.key === 'F6') focusByPointer = false
      // Who has pressed a button still steps through frames with the arrows.
      if (focusByPointer || !walkWithin(event)) return
      event.preventDefault()
      event.stopPropagation()
    }
    document.addEventListener('pointerdown', onPointer, true)
    document.addEventListener('keydown', onKey, true)
    return () => {
      document.removeEventListener('pointerdown', onPointer, true)
      document.removeEventListener('keydown', onKey, true)
    }
  }, [])
}

/**
 * Binds the keys of a command. A button, link or slider that has the keyboard's focus takes the space bar for itself; one
 * that was only clicked does not.
 */
export function CommandKeys({ command, go }: { command: Command; go: (view: View) => void }) {
  useHotkeys(
    command.keys ?? '',
    (event) => {
      if (document.querySelector('dialog[open]')) return
      const taken = !focusByPointer && (event.target as HTMLElement).closest('button, a, [role="slider"]')
      if (event.code === 'Space' && taken) return
      // A field being typed in has its own undo.
      if ((event.target as HTMLElement).dataset.draft === 'true') return
      event.preventDefault()
      command.run(go)
    },
    {
      enabled: command.keys !== undefined && !command.systemKeys,
      enableOnFormTags: command.inFields ? true : ['slider'],
    },
    [command, go],
  )
  return null
}
