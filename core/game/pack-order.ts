/**
 * Names of packs as a game sorts them that reads them in order: capitals and small letters alike.
 * @example ['b.zip', 'A.zip'].sort(comparePackNames) // ['A.zip', 'b.zip']
 */
export function comparePackNames(a: string, b: string): number {
  const [first, second] = [a.toLowerCase(), b.toLowerCase()]
  return first < second ? -1 : first > second ? 1 : 0
}

/**
 * What is wrong with a pack's file name in a game that has a pack of its own beside the modders'.
 * @param base the game's own pack, which its builder writes anew
 *
 * @example const [wrong] = namedAgainst('gate.zip', 'zz_base.zip')
 */
export function namedAgainst(name: string, base: string): string[] {
  const order = comparePackNames(name, base)
  if (order === 0)
    return [`${name} is the name of the game’s own pack: its builder writes it anew. Give yours a name of its own.`]
  return order < 0
    ? [`${name} is read before the game’s own ${base}, which wins wherever both have a file. Give it a later name.`]
    : []
}
