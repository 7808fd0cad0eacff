import type { Draw } from './draw.ts'

/** A value of JSON that stands in the place of another. */
type Json = null | boolean | number | string | Json[] | { [key: string]: Json }

const deep = (depth: number): Json => (depth === 0 ? 1 : [deep(depth - 1)])

const others: readonly ((draw: Draw) => Json)[] = [
  () => null,
  () => true,
  (draw) => draw.one([0, -1, 1, 0.5, 2 ** 31, 2 ** 32, 1e9, 1e15, 1e308, -1e308, 5126, 5121]),
  (draw) => draw.one(['', 'constructor', '__proto__', 'a'.repeat(3000), '../../x', 'data:,', '😀', 'NaN', '1e999']),
  () => [],
  () => ({}),
  (draw) => deep(draw.one([3, 200, 500])),
  (draw) => Array.from({ length: draw.one([2, 1000, 20_000]) }, () => 0),
  () => ({ constructor: 1, toString: null }),
]

interface Place {
  holder: Json[] | { [key: string]: Json }
  key: string
}

/** Every place of a value, so many at most. */
function placesIn(root: Json): Place[] {
  const places: Place[] = []
  const left: Json[] = [root]
  while (left.length > 0 && places.length < 20_000) {
    const value = left.pop()
    if (typeof value !== 'object' || value === null) continue
    for (const [key, inside] of Object.entries(value)) {
      places.push({ holder: value, key })
      left.push(inside)
    }
  }
  return places
}

const set = ({ holder, key }: Place, value: Json): void =>
  void Object.defineProperty(holder, key, { value, enumerable: true, configurable: true, writable: true })
const get = ({ holder, key }: Place): Json => (holder as Record<string, Json>)[key]

/** A value of the same kind that is not far off: what passes a schema and is wrong all the same. */
function near(value: Json, places: readonly Place[], draw: Draw): Json {
  if (typeof value === 'number') return draw.one([value + 1, value - 1, value * 2, -value, 0, value + 0.5])
  if (typeof value === 'boolean') return !value
  const alike = places
    .map(get)
    .filter((other) => typeof other === typeof value && Array.isArray(other) === Array.isArray(value))
  return structuredClone(draw.one(alike))
}

/** A text of JSON with one to three values set to others, taken out, repeated or exchanged; other text stays. */
export function mutateJson(text: string, draw: Draw): string {
  let root: Json
  try {
    root = JSON.parse(text) as Json
  } catch {
    return text
  }
  for (let count = 1 + draw.below(3); count > 0; count--) {
    const places = placesIn(root)
    if (places.length === 0) break
    const place = draw.one(places)
    const what = draw.below(10)
    if (what < 3) set(place, draw.one(others)(draw))
    else if (what < 6) set(place, near(get(place), places, draw))
    else if (what < 7) set(place, structuredClone(get(draw.one(places))))
    else if (what < 8 && Array.isArray(place.holder))
      place.holder.push(...Array.from({ length: draw.one([1, 50]) }, () => structuredClone(get(place))))
    else if (Array.isArray(place.holder)) place.holder.splice(Number(place.key), 1)
    else Reflect.deleteProperty(place.holder, place.key)
  }
  // Numbers that only text can hold.
  const out = JSON.stringify(root)
  return draw.chance(0.1) ? out.replace(/\d+/, draw.one(['1e400', '-0', '00', '1e-400'])) : out
}
