import { textThat } from '../schemas'
import { colourName, isColour } from '.'

/** A colour as such, as named colours have it. */
export const plainColour = textThat(isColour, 'is not a CSS colour such as #f2b54a or rgb(242 181 74 / 0.5)')

/** A colour of a layer: one as such, or a named one. */
export const colour = textThat(
  (text) => isColour(text) || colourName(text) !== null,
  'is not a CSS colour, nor a named one as var(--lamp)',
)
