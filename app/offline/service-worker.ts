import { clientsClaim } from 'workbox-core'
import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'
import { z } from 'zod'

/** Every file of the application, put in when it is built. */
declare const KEPT_FILES: { url: string; revision: string | null }[]

const askedSchema = z.object({ type: z.literal('SKIP_WAITING') })

interface ServiceWorker {
  skipWaiting: () => Promise<void>
  addEventListener: (type: 'message', listener: (event: { data: unknown }) => void) => void
}

// The whole application is kept at the first visit, so that what is opened for the first time works without the server.
precacheAndRoute(KEPT_FILES)
cleanupOutdatedCaches()
// The page of the first visit too is served from what is kept, as soon as it is.
clientsClaim()
// Every address is the one page, which looks itself what it is asked for; a file is none.
registerRoute(new NavigationRoute(createHandlerBoundToURL('/index.html'), { denylist: [/\.[a-z0-9]+$/i] }))

// A later version waits until the modder asks for it: never in the middle of work.
const worker = globalThis as unknown as ServiceWorker
worker.addEventListener('message', ({ data }) => {
  if (askedSchema.safeParse(data).success) void worker.skipWaiting()
})
