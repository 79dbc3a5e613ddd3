/** News of versions for a page. */
export interface VersionNews {
  /** A new version has been fetched and waits; `take` has it take over, after which this page is loaded anew. */
  readonly onWaiting: (take: () => Promise<void>) => void
  /** Another page has had a new version take over: this one is of the old one. */
  readonly onOutdated: () => void
}

/**
 * Has the browser keep the application, so that it starts without a network. Returns a function that stops listening.
 * @param settle what has to be done before the page is loaded anew, such as saving
 * @throws (asynchronously) what registering throws, such as where storage is switched off
 */
export async function keepApplication(news: VersionNews, settle: () => Promise<void>): Promise<() => void> {
  const { serviceWorker } = navigator
  const registration = await serviceWorker.register('/sw.js', { updateViaCache: 'none' })
  let taking = false
  const take = async () => {
    taking = true
    await settle()
    registration.waiting?.postMessage({ type: 'SKIP_WAITING' })
  }
  const tell = () => {
    // The first version of all has nobody to wait for.
    if (registration.waiting && serviceWorker.controller) news.onWaiting(take)
  }
  const onFound = () => {
    const { installing } = registration
    installing?.addEventListener('statechange', () => installing.state === 'installed' && tell())
  }
  const looked = serviceWorker.controller
  const onTaken = () => {
    if (taking) location.reload()
    else if (looked) news.onOutdated()
  }
  // A page that stays open for days asks when it is looked at again; without a network there is no answer, and none is needed.
  const onLooked = () => {
    if (document.visibilityState === 'visible') void registration.update().catch(() => {})
  }
  registration.addEventListener('updatefound', onFound)
  serviceWorker.addEventListener('controllerchange', onTaken)
  document.addEventListener('visibilitychange', onLooked)
  tell()
  return () => {
    registration.removeEventListener('updatefound', onFound)
    serviceWorker.removeEventListener('controllerchange', onTaken)
    document.removeEventListener('visibilitychange', onLooked)
  }
}
