/**
 * Whether a path leads out of where it begins: it steps up, begins at the root, or names a disk.
 *
 * @example climbsOut('../saves/one.dat') // true
 */
export const climbsOut = (path: string): boolean => path.split(/[\\/]/).includes('..') || /^([\\/]|[a-z]:)/i.test(path)

/**
 * A name made safe for one step of a path, whatever stands in it.
 * @example pathSafe('Gate: left/right')
 */
export const pathSafe = (name: string): string =>
  name.replace(/[\\/:*?"<>|\u0000-\u001f]/g, '_').replace(/^\.+/, '_') || '_'

/**
 * Whether a path leads from the root of somebody's disk: nobody else has it.
 * @example isDiskPath('c:/models/gate.obj') // true
 */
export const isDiskPath = (path: string): boolean => /^(?:file:\/+)?(?:[a-z]:)?[\\/]/i.test(path)
