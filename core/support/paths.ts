/**
 * Whether a path leads out of where it begins: it steps up, begins at the root, or names a disk.
 *
 * @example climbsOut('../saves/one.dat') // true
 */
export const climbsOut = (path: string): boolean => path.split(/[\\/]/).includes('..') || /^([\\/]|[a-z]:)/i.test(path)
