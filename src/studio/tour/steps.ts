import type { View } from '../commands/command'

/** A stop of the tour: what is shown, where, and what to do there. */
export interface TourStep {
  readonly view: View
  /** Element beside which the step stands, as a CSS selector. */
  readonly at: string
  readonly title: string
  readonly text: string
}

export const TOUR: readonly TourStep[] = [
  {
    view: 'compose',
    at: '[data-testid="stage"]',
    title: 'Your loop',
    text: 'This is the frame. Press the space bar: it plays for ever, at its true rate. Press it again to stop.',
  },
  {
    view: 'compose',
    at: '[aria-label="Dial"]',
    title: 'Time is a ring',
    text: 'The seam is at the top. Each ring is a layer that moves, each bead a key. Drag the hand to any frame.',
  },
  {
    view: 'compose',
    at: '[aria-label="Layers"]',
    title: 'Choose a layer',
    text: 'Press one to select it. Shift E puts an ellipse in the middle, if you want one of your own.',
  },
  {
    view: 'compose',
    at: '[aria-label="Properties"]',
    title: 'Give it a motion',
    text: 'Under “Motions to take”, point at one to see it, press it to take it. All of them close. Its numbers are below.',
  },
  {
    view: 'compose',
    at: 'section[aria-label="Seam"]',
    title: 'The seam is always in sight',
    text: 'It says whether the loop closes. Where it does not, it names the motion, the reason, and what mends it.',
  },
  {
    view: 'seam',
    at: '[data-testid="compare"]',
    title: 'Look at the seam itself',
    text: 'The last frame, the closing one and the first, beside each other. Flip them, or see what differs.',
  },
  {
    view: 'export',
    at: '[aria-label="What is written"]',
    title: 'Write a file',
    text: 'Choose a format and press “Write …”. It says beforehand how true the timing will be, and about how large the file.',
  },
  {
    view: 'export',
    at: 'main',
    title: 'See that it holds',
    text: 'The file is read back by another program than the one that wrote it: each line says what was meant and what is in it. Save it, and you are done.',
  },
]
