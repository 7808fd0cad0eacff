/**
 * A number as people type it: `1200`, `1,200` and `1 200` are the same, and a comma that is no thousands mark is a
 * decimal one, as in `0,5`.
 * @returns null for anything else
 */
export function parseNumber(text: string): number | null {
  const plain = text
    .trim()
    .replace(/[\s\u2009\u202f\u00a0]/g, '')
    .replace('−', '-')
  if (!/^[+-]?[\d.,]+(?:e[+-]?\d+)?$/i.test(plain)) return null
  const grouped = /^[+-]?\d{1,3}(?:,\d{3})+(?:\.\d*)?$/.test(plain)
  const decimal = !plain.includes('.') && plain.split(',').length === 2
  const written = grouped ? plain.replaceAll(',', '') : decimal ? plain.replace(',', '.') : plain
  const value = Number(written)
  return Number.isFinite(value) ? value : null
}
