import type { Command } from './command'

/** What is walked from one to the next, in the order in which it lies on the page. */
const PANELS =
  'header nav, [role="toolbar"], main section[aria-label], main aside[aria-label], main [role="group"][aria-label="Dial"], section[aria-label="Seam"]'
const FOCUSABLE =
  'a[href], button:not([disabled]), input:not([disabled]), select:not([disabled]), [tabindex]:not([tabindex="-1"])'

/** Gives the focus to the first thing that takes it in the next panel, or the one before. */
function walk(by: 1 | -1): void {
  const panels = [...document.querySelectorAll<HTMLElement>(PANELS)].filter(
    (panel) => panel.offsetParent !== null && panel.querySelector(FOCUSABLE),
  )
  if (panels.length === 0) return
  const own = panels.findLastIndex((panel) => panel.contains(document.activeElement))
  const next = own < 0 ? (by > 0 ? 0 : panels.length - 1) : (own + by + panels.length) % panels.length
  const fields = [...(panels[next]?.querySelectorAll<HTMLElement>(FOCUSABLE) ?? [])]
  const first = fields.find((field) => field.offsetParent !== null) ?? fields[0]
  first?.focus()
  first?.scrollIntoView({ block: 'nearest' })
}

export const PANEL_COMMANDS: readonly Command[] = [
  { id: 'next-panel', label: 'Go to the next panel', section: 'Views', keys: 'f6', inFields: true, run: () => walk(1) },
  {
    id: 'previous-panel',
    label: 'Go to the panel before',
    section: 'Views',
    keys: 'shift+f6',
    inFields: true,
    run: () => walk(-1),
  },
]
