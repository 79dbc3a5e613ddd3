/** A colour of the page's theme, for a canvas that cannot read CSS variables. */
export const themeColour = (element: Element, name: string): string =>
  getComputedStyle(element).getPropertyValue(`--color-${name}`).trim()
