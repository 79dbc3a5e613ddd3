/** Node 21 and browsers have a navigator, Node 20 has none: storage asks it whether blobs can be kept. */
if (!('navigator' in globalThis))
  Object.defineProperty(globalThis, 'navigator', { value: { userAgent: 'Node' }, configurable: true, writable: true })
