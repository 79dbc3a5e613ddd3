import { type Driver, driver } from 'driver.js'
import 'driver.js/dist/driver.css'
import type { View } from '../commands/command'
import { kept } from '../kept'
import { TOUR } from './steps'

/** Where the tour was left, in this browser. */
const KEPT = 'cyclon tour'
/** Longest wait for the element of a step, ms: its view may have to open first. */
const PATIENCE_MS = 8000
const LOOK_MS = 50

/** The step at which the tour was left; the first where it was ended, or never begun. */
function leftAt(): number {
  const n = Number(kept.getItem(KEPT))
  return Number.isInteger(n) && n > 0 && n < TOUR.length ? n : 0
}

let running: Driver | null = null
let leaveRunning: () => void = () => {}

/** Leaves the tour; it goes on from there the next time. */
export const endTour = (): void => leaveRunning()

async function found(selector: string): Promise<Element | null> {
  for (let waited = 0; waited < PATIENCE_MS; waited += LOOK_MS) {
    const element = document.querySelector(selector)
    if (element) return element
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS))
  }
  return null
}

/**
 * Shows the way round the open loop, step by step, each in its view; it can be left at any step, and goes on there the next time.
 * @param go goes to a view of the loop
 */
export async function startTour(go: (view: View) => void, from = leftAt()): Promise<void> {
  leaveRunning()
  const show = async (n: number): Promise<void> => {
    const step = TOUR[n]
    if (!step) {
      kept.removeItem(KEPT)
      leave()
      return
    }
    kept.setItem(KEPT, String(n))
    go(step.view)
    const element = await found(step.at)
    if (!element || running !== tour) return
    tour.highlight({
      element,
      popover: {
        title: step.title,
        description: step.text,
        showButtons: n === 0 ? ['next', 'close'] : ['previous', 'next', 'close'],
        nextBtnText: n === TOUR.length - 1 ? 'Done' : 'Next',
        prevBtnText: 'Back',
        showProgress: true,
        progressText: `${n + 1} of ${TOUR.length}`,
        onNextClick: () => void show(n + 1),
        onPrevClick: () => void show(n - 1),
        onCloseClick: leave,
      },
    })
  }
  const leave = () => {
    document.removeEventListener('keydown', onKey, true)
    tour.destroy()
    if (running === tour) {
      running = null
      leaveRunning = () => {}
    }
  }
  const onKey = (event: KeyboardEvent) => {
    if (event.key !== 'Escape') return
    event.stopPropagation()
    leave()
  }
  const tour = driver({
    // The shown element stays usable: the tour is about the user's own loop.
    disableActiveInteraction: false,
    allowKeyboardControl: false,
    overlayClickBehavior: () => {},
    overlayOpacity: 0.25,
    stagePadding: 2,
    stageRadius: 6,
    animate: false,
    popoverClass: 'tour',
  })
  running = tour
  leaveRunning = leave
  document.addEventListener('keydown', onKey, true)
  await show(Math.min(from, TOUR.length - 1))
}
