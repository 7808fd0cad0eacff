const LONGEST = 120

/** What lies beside a model and says little of it: what it is licensed under, how it looks. */
const BESIDE = /\.(txt|md|rtf|pdf|html?|json|mtl|bin|png|jpe?g|tga|bmp|gif|webp|tiff?|dds|ktx2)$/i

/**
 * A name for a mod as far as the paths of its files tell it: the folder’s of several, the first model’s otherwise.
 *
 * @example nameOfFiles(['dist/left_hand.glb']) // 'Left hand'
 */
export function nameOfFiles(paths: readonly string[]): string {
  const parts = (paths.find((path) => !BESIDE.test(path)) ?? paths[0] ?? '').split('/')
  const stem = paths.length > 1 && parts.length > 1 ? parts[0] : (parts.at(-1) ?? '').replace(/\.[^.]+$/, '')
  const words = stem.replace(/[_.-]+/g, ' ').trim() || 'My mod'
  return (words.charAt(0).toUpperCase() + words.slice(1)).slice(0, LONGEST)
}
