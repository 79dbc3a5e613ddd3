/** A way to tell the other tabs of this browser that something stored has changed, and to hear it from them. */
export interface Tabs {
  readonly tell: () => void
  readonly hear: (listener: () => void) => void
}

/** The tabs that know a name; none where there is no page. */
export function tabs(name: string): Tabs {
  if (typeof document === 'undefined' || typeof BroadcastChannel === 'undefined')
    return { tell: () => {}, hear: () => {} }
  const channel = new BroadcastChannel(name)
  return {
    tell: () => channel.postMessage(null),
    hear: (listener) => channel.addEventListener('message', listener),
  }
}
