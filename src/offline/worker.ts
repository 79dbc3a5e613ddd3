/// <reference lib="webworker" />
import { type PrecacheEntry, Serwist } from 'serwist'
import { isLoopView, pageOf, templateOf } from './template'

declare const self: ServiceWorkerGlobalScope & { readonly PRECACHED: readonly PrecacheEntry[] }

/**
 * The script of a worker, told its own address: a worker reads from it, behind the #, what it is to do, and browsers leave that part out where a script
 * comes from here.
 */
async function toldItsAddress({ event, cachedResponse }: { event: Event; cachedResponse?: Response | undefined }) {
  const asked = event instanceof FetchEvent ? event.request : null
  if (!cachedResponse || asked?.destination !== 'worker' || !asked.url.includes('#')) return cachedResponse
  const { headers } = cachedResponse
  return new Response(`const location = new URL(${JSON.stringify(asked.url)});\n${await cachedResponse.text()}`, {
    headers,
  })
}

/**
 * Keeps one whole version of the application in the browser and answers from it, so that it starts without a network and versions are never mixed. A new
 * version is fetched beside the old one and waits until it is asked to take over, or until the last page of the old one has gone.
 */
const serwist = new Serwist({
  precacheEntries: [...self.PRECACHED],
  precacheOptions: {
    cleanupOutdatedCaches: true,
    ignoreURLParametersMatching: [],
    plugins: [{ cachedResponseWillBeUsed: toldItsAddress }],
  },
  skipWaiting: false,
  // The page of the first visit is looked after, too.
  clientsClaim: true,
  navigationPreload: false,
})

serwist.registerCapture(
  ({ request, url, sameOrigin }) => sameOrigin && request.mode === 'navigate' && isLoopView(url.pathname),
  async ({ url, request }) => {
    const template = await serwist.matchPrecache(templateOf(url.pathname))
    return template ? pageOf(template, url.pathname) : fetch(request)
  },
)

serwist.addEventListeners()
