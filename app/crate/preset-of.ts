import type { Preset } from '../../core/crate/preset'
import type { CrateItem } from '../../core/crate/schema'
import { unitOfMetres } from '../../core/item/units'

/**
 * A preset of what an item is: its kind, how it was read and its worklist, for files that are called like its own.
 * @example presetOf(item) // of post_03.glb: { title: 'Post 03', files: ['post_*.glb'], kind: 'prop', worklist: […] }
 */
export function presetOf({ name, kind, main, reading, worklist }: CrateItem): Preset {
  const file = main.split('/').pop() ?? main
  const unit = reading.metresPerUnit === undefined ? null : unitOfMetres(reading.metresPerUnit)
  return {
    title: name,
    // A name that ends in a number is one of a row.
    files: [file.replace(/\d+(\.[^.]*)$/, '*$1').slice(0, 200)],
    kind,
    ...(unit ? { unit: unit.id } : {}),
    ...(reading.up ? { up: reading.up } : {}),
    ...(reading.forward ? { forward: reading.forward } : {}),
    worklist: worklist.length === 0 ? null : worklist,
  }
}
