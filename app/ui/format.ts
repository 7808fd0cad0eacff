const grouped = new Intl.NumberFormat('en-GB')

export const formatCount = (value: number): string => grouped.format(Math.round(value))

export const formatMegabytes = (bytes: number): string => `${(bytes / 1024 / 1024).toFixed(1)} MB`

/** Bytes in the unit that reads best. */
export function formatBytes(bytes: number): string {
  if (bytes < 1024) return `${bytes} B`
  if (bytes < 1024 ** 2) return `${(bytes / 1024).toFixed(0)} kB`
  return bytes < 1024 ** 3 ? formatMegabytes(bytes) : `${(bytes / 1024 ** 3).toFixed(1)} GB`
}

/** “just now”, “3 min ago”, or the day. */
export function formatAgo(time: number, now: number): string {
  const minutes = Math.floor((now - time) / 60_000)
  if (minutes < 1) return 'just now'
  if (minutes < 60) return `${minutes} min ago`
  return minutes < 24 * 60
    ? `${Math.floor(minutes / 60)} h ago`
    : new Date(time).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })
}

/** “1 finding”, “4 findings”. */
export const plural = (count: number, word: string): string => `${formatCount(count)} ${word}${count === 1 ? '' : 's'}`

/** “a prop”, “an addition”: worded once, for the interface as for findings. */
export { withArticle } from '../../core/support/wording'
