import { z } from 'zod'

/** Told to every other tab of this browser when something that is kept has changed. */
const newsSchema = z.object({ crate: z.string() })

const CHANNEL = 'gentle-crate-news'
let channel: BroadcastChannel | null = null

/** One channel for the page; none where the browser has no such thing. */
const opened = (): BroadcastChannel | null => {
  if (typeof BroadcastChannel === 'undefined') return null
  channel ??= new BroadcastChannel(CHANNEL)
  return channel
}

/** Says in the other tabs that a crate was changed, added or removed here. */
export const tellOtherTabs = (crate: string): void => opened()?.postMessage({ crate })

/**
 * Listens to what other tabs change.
 * @param onChange told the id of the crate
 * @returns a function that stops listening
 */
export function hearOtherTabs(onChange: (crate: string) => void): () => void {
  const hear = ({ data }: MessageEvent<unknown>): void => {
    const news = newsSchema.safeParse(data)
    if (news.success) onChange(news.data.crate)
  }
  const on = opened()
  on?.addEventListener('message', hear)
  return () => on?.removeEventListener('message', hear)
}
