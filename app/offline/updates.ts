import { toast } from 'sonner'

/**
 * Keeps the application for when there is no server. A later version is told, and taken when the modder says so: in
 * every tab at once, since they share what is kept.
 */
export async function keepForOffline(): Promise<void> {
  if (!import.meta.env.PROD || !('serviceWorker' in navigator)) return
  // Where it cannot be kept, as in a private window, everything works as long as there is a server.
  await register().catch(() => undefined)
}

async function register(): Promise<void> {
  const { Workbox } = await import('workbox-window')
  const worker = new Workbox('/service-worker.js')
  let asked = false
  let controlled = navigator.serviceWorker.controller !== null
  const offer = (message: string, label: string, onClick: () => void): void => {
    toast(message, {
      duration: Infinity,
      closeButton: true,
      description: 'It is taken when you say so; nothing that is kept changes.',
      action: { label, onClick },
    })
  }
  worker.addEventListener('waiting', () =>
    offer('A later version of Gentle Crate is here.', 'Use it now', () => {
      asked = true
      worker.messageSkipWaiting()
    }),
  )
  worker.addEventListener('controlling', () => {
    if (asked) return window.location.reload()
    // The first version that is kept changes nothing on the page.
    if (controlled) offer('Another tab uses a later version of Gentle Crate.', 'Use it here', () => location.reload())
    controlled = true
  })
  await worker.register()
}
