import {
  Extension,
  ExtensionProperty,
  RefMap,
  type Document,
  type IProperty,
  type Material,
  type Nullable,
  type ReaderContext,
  type Texture,
  type WriterContext,
} from '@gltf-transform/core'
import { z } from 'zod'
import {
  ingredientRoles,
  isGameMapRole,
  isIngredientRole,
  isPackedRole,
  paintedRoles,
  type GameMapRole,
  type IngredientRole,
  type PackedRole,
} from './map-roles.ts'

/**
 * Maps of a material that glTF has no place for: what makers paint (roughness alone, gloss, height…), and what a game
 * packs in its own way. A private extension, because only then do copies, names and deletions of textures keep up with
 * it. In the file: `{maps: {role: index of the image}}`.
 */
const NAME = 'GENTLE_CRATE_source_maps'

type KeptRole = IngredientRole | PackedRole
const isKeptRole = (role: string): role is KeptRole => isIngredientRole(role) || isPackedRole(role)

interface ISourceMaps extends IProperty {
  maps: RefMap<Texture>
}

class SourceMaps extends ExtensionProperty<ISourceMaps> {
  static override EXTENSION_NAME = NAME
  declare extensionName: typeof NAME
  declare propertyType: 'SourceMaps'
  declare parentTypes: ['Material']

  protected override init(): void {
    this.extensionName = NAME
    this.propertyType = 'SourceMaps'
    this.parentTypes = ['Material']
  }
  protected override getDefaults(): Nullable<ISourceMaps> {
    return Object.assign(super.getDefaults() as IProperty, { maps: new RefMap<Texture>() })
  }
  map(role: KeptRole): Texture | null {
    return this.getRefMap('maps', role)
  }
  setMap(role: KeptRole, texture: Texture | null): this {
    return this.setRefMap('maps', role, texture)
  }
  roles(): string[] {
    return this.listRefMapKeys('maps')
  }
}

const writtenSchema = z.object({ maps: z.record(z.string(), z.number().int().nonnegative()) })

export class SourceMapsExtension extends Extension {
  static override readonly EXTENSION_NAME: typeof NAME = NAME
  override readonly extensionName = NAME

  create(): SourceMaps {
    return new SourceMaps(this.document.getGraph())
  }
  override read(context: ReaderContext): this {
    context.jsonDoc.json.materials?.forEach((definition, index) => {
      const written = writtenSchema.safeParse(definition.extensions?.[NAME])
      if (!written.success) return
      const maps = this.create()
      for (const [role, image] of Object.entries(written.data.maps)) {
        const texture = context.textures[image]
        if (texture && isKeptRole(role)) maps.setMap(role, texture)
      }
      context.materials[index]?.setExtension(NAME, maps)
    })
    return this
  }
  override write(context: WriterContext): this {
    for (const material of this.document.getRoot().listMaterials()) {
      const maps = material.getExtension<SourceMaps>(NAME)
      const index = context.materialIndexMap.get(material)
      const definition = index === undefined ? undefined : context.jsonDoc.json.materials?.[index]
      if (!maps || !definition) continue
      const written: Record<string, number> = {}
      for (const role of maps.roles()) {
        const texture = isKeptRole(role) ? maps.map(role) : null
        const image = texture ? context.imageIndexMap.get(texture) : undefined
        if (image !== undefined) written[role] = image
      }
      definition.extensions = { ...definition.extensions, [NAME]: { maps: written } }
    }
    return this
  }
}

/**
 * A material's map for any role; occlusion and glow may stand where glTF itself has them.
 *
 * @example const relief = materialMap(material, 'normal')?.getImage()
 */
export function materialMap(material: Material, role: GameMapRole | IngredientRole): Texture | null {
  if (role === 'colour') return material.getBaseColorTexture()
  if (role === 'normal') return material.getNormalTexture()
  if (role === 'metal-rough') return material.getMetallicRoughnessTexture()
  const own = material.getExtension<SourceMaps>(NAME)?.map(role) ?? null
  if (own) return own
  return role === 'occlusion' ? material.getOcclusionTexture() : role === 'glow' ? material.getEmissiveTexture() : null
}

/**
 * Puts a map into a role of a material, or takes it out.
 *
 * @example setMaterialMap(document, material, 'normal', texture)
 */
export function setMaterialMap(
  document: Document,
  material: Material,
  role: GameMapRole | IngredientRole,
  texture: Texture | null,
): void {
  if (role === 'colour') material.setBaseColorTexture(texture)
  else if (role === 'normal') material.setNormalTexture(texture)
  else if (role === 'metal-rough') material.setMetallicRoughnessTexture(texture)
  else {
    if (role === 'occlusion') material.setOcclusionTexture(null)
    if (role === 'glow') material.setEmissiveTexture(null)
    let maps = material.getExtension<SourceMaps>(NAME)
    if (!maps && !texture) return
    maps ??= document.createExtension(SourceMapsExtension).create()
    maps.setMap(role, texture)
    material.setExtension(NAME, maps.roles().length > 0 ? maps : null)
  }
}

/**
 * Every map of a material with its role: first those that games read, then what they are packed from.
 *
 * @example const roles = listMaterialMaps(material).map(({ role }) => role)
 */
export function listMaterialMaps(material: Material): { role: GameMapRole | IngredientRole; texture: Texture }[] {
  const packed = material.getExtension<SourceMaps>(NAME)?.roles().filter(isPackedRole) ?? []
  const roles: (GameMapRole | IngredientRole)[] = [...paintedRoles, ...packed, ...ingredientRoles]
  return roles.flatMap((role) => {
    const texture = materialMap(material, role)
    return texture ? [{ role, texture }] : []
  })
}

/**
 * Takes every map that no game reads off a material.
 * @example for (const material of listUsedMaterials(document)) dropIngredients(document, material)
 */
export function dropIngredients(document: Document, material: Material): void {
  for (const { role } of listMaterialMaps(material))
    if (!isGameMapRole(role)) setMaterialMap(document, material, role, null)
}
