/**
 * Whether a name fits what was typed: a part of it in whatever case, or a pattern with * for anything and ? for one sign.
 */
export function fitsPattern(name: string, typed: string): boolean {
  const wanted = typed.trim().toLowerCase()
  if (wanted === '') return true
  if (!/[*?]/.test(wanted)) return name.toLowerCase().includes(wanted)
  const source = wanted
    .replace(/[.+^${}()|[\]\\]/g, '\\$&')
    .replace(/\*+/g, '.*')
    .replace(/\?/g, '.')
  return new RegExp(`^${source}$`).test(name.toLowerCase())
}
