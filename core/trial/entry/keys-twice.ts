/**
 * Keys that stand twice in one object of a JSON text (RFC 8259, section 4, leaves open which of them counts), by a scan
 * of its signs alone. The text has been parsed already.
 *
 * @example keysTwice('{"a": 1, "a": 2}') // ['a']
 */
export function keysTwice(text: string): string[] {
  const found: string[] = []
  const open: (Set<string> | null)[] = []
  for (let at = 0; at < text.length; at++) {
    const sign = text[at]
    if (sign === '{') open.push(new Set())
    else if (sign === '[') open.push(null)
    else if (sign === '}' || sign === ']') open.pop()
    else if (sign === '"') {
      const start = at
      for (at++; at < text.length && text[at] !== '"'; at++) if (text[at] === '\\') at++
      const keys = open[open.length - 1]
      if (!keys || !/^\s*:/.test(text.slice(at + 1, at + 200))) continue
      const key = JSON.parse(text.slice(start, at + 1)) as string
      if (keys.has(key)) found.push(key)
      keys.add(key)
    }
  }
  return found
}
