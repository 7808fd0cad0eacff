import { asItStands, type TextureWriter } from './texture-writer.ts'

/**
 * Blocks were made, measured and looked at before: they are written as they are.
 * @example const map = await writeDdsMap({ texture, role, files: rulebook.files })
 */
export const writeDdsMap: TextureWriter = async ({ texture }) => asItStands(texture)
