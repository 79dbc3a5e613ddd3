/** The clock that the page and all workers share, ms. */
export const sharedNow = (): number => performance.timeOrigin + performance.now()

/** Lets what waits for the worker, such as messages and the screen's next frame, have its turn. */
export const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => {
      port1.close()
      resolve()
    }
    port2.postMessage(null)
  })
