import { useSyncExternalStore } from 'react'

/** A colour of the page's theme, for a canvas that cannot read CSS variables. */
export const themeColour = (element: Element, name: string): string =>
  getComputedStyle(element).getPropertyValue(`--color-${name}`).trim()

function onThemeChange(changed: () => void): () => void {
  const observer = new MutationObserver(changed)
  observer.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] })
  return () => observer.disconnect()
}

/** The theme that the page shows by now: what is drawn in its colours is drawn anew when it changes. */
export const useShownTheme = (): string | null =>
  useSyncExternalStore(
    onThemeChange,
    () => document.documentElement.dataset.theme ?? null,
    () => null,
  )
