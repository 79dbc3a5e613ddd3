import type { Command } from './command'

/** Panels in the order in which F6 visits them, as they lie on the page. */
const PANELS =
  'header nav, [role="toolbar"], main section[aria-label], main aside[aria-label], main [role="group"][aria-label="Dial"], section[aria-label="Seam"]'
const FOCUSABLE =
  'a[href], button:not([disabled]), input:not([disabled]), select:not([disabled]), [tabindex]:not([tabindex="-1"])'

const focusables = (panel: HTMLElement): HTMLElement[] =>
  [...panel.querySelectorAll<HTMLElement>(FOCUSABLE)].filter((field) => field.checkVisibility())

const panelsShown = (): HTMLElement[] =>
  [...document.querySelectorAll<HTMLElement>(PANELS)].filter(
    (panel) => panel.checkVisibility() && panel.querySelector(FOCUSABLE),
  )

/** Number of items that Page Up and Page Down move by. */
const PAGE = 10
const STEPS: Readonly<Record<string, number>> = { ArrowDown: 1, ArrowUp: -1, PageDown: PAGE, PageUp: -PAGE }
const ALONG: Readonly<Record<string, number>> = { ArrowRight: 1, ArrowLeft: -1 }
/** Elements that use the arrow keys themselves, and those that use Page Up and Page Down too. */
const OWN_ARROWS =
  'input, textarea, select, [role="slider"], [role="option"], [role="tab"], [aria-pressed="true"][aria-roledescription]'
const OWN_PAGES = 'textarea, [role="slider"], input[type="range"]'

/**
 * Walks within the panel that has the focus: arrows from button to button, in a toolbar along it too, Page Up and Page Down by ten, also from fields.
 * @returns whether the key was taken
 */
export function walkWithin({ key, ctrlKey, metaKey, altKey, shiftKey, target }: KeyboardEvent): boolean {
  if (ctrlKey || metaKey || altKey || shiftKey || !(target instanceof HTMLElement)) return false
  if (target.closest('dialog')) return false
  const panel = panelsShown().findLast((each) => each.contains(target))
  if (!panel) return false
  const by = STEPS[key] ?? (panel.role === 'toolbar' ? ALONG[key] : undefined)
  if (by === undefined || target.matches(Math.abs(by) === PAGE ? OWN_PAGES : OWN_ARROWS)) return false
  const fields = focusables(panel)
  const own = fields.indexOf(target)
  if (own < 0) return false
  const next = fields[Math.min(fields.length - 1, Math.max(0, own + by))]
  next?.focus()
  next?.scrollIntoView({ block: 'nearest' })
  return true
}

/** Gives the focus to the first thing that takes it in the next panel, or the one before. */
function walk(by: 1 | -1): void {
  const panels = panelsShown()
  if (panels.length === 0) return
  const own = panels.findLastIndex((panel) => panel.contains(document.activeElement))
  const next = own < 0 ? (by > 0 ? 0 : panels.length - 1) : (own + by + panels.length) % panels.length
  const [first] = focusables(panels[next] as HTMLElement)
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
