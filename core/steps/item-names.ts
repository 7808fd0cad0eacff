import { z } from 'zod'

/** A name in an item, as its source wrote it: of a part, a solid, a bone, a point, a clip, a material or a picture. */
export const nameInItem = z.string().max(4096)

/** Names of some of an item's parts, or of whatever else it has many of. */
export const namesInItem = z.array(nameInItem).max(20_000)

/** The name of one of an item's materials, without its tag. */
export const materialInItem = z.string().max(4096)

/** Names of some of an item's materials. */
export const materialsInItem = z.array(materialInItem).max(20_000)
