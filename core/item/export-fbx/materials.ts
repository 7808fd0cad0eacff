import type { Material, Texture } from '@gltf-transform/core'
import { srgbOfLinear } from '../../maths/srgb.ts'
import { PicturesBeside } from '../export-pictures.ts'
import { glowFactor, isStill, placeOfMap, type MapRole } from '../material-meaning.ts'
import { listMaterialMaps } from '../source-maps.ts'
import { line, properties, real, text, whole } from './binary-tree.ts'
import type { FbxObjects, ObjectId } from './objects.ts'

/** The properties of a material that maps hang on. */
const slots: Partial<Record<MapRole, string>> = {
  colour: 'DiffuseColor',
  normal: 'NormalMap',
  glow: 'EmissiveColor',
  specular: 'SpecularColor',
  opacity: 'TransparentColor',
}

/** Materials with their maps, and the pictures that go beside the file. */
export class FbxMaterials {
  readonly pictures: PicturesBeside
  readonly leftOut = new Set<string>()
  private readonly made = new Map<Material, ObjectId>()

  constructor(
    private readonly objects: FbxObjects,
    stem: string,
  ) {
    this.pictures = new PicturesBeside(stem)
  }

  for(material: Material): ObjectId {
    const known = this.made.get(material) ?? this.add(material)
    this.made.set(material, known)
    return known
  }

  private add(material: Material): ObjectId {
    const [red, green, blue, opacity] = material.getBaseColorFactor()
    const glow = glowFactor(material).map((value) => srgbOfLinear(Math.min(1, value)))
    const see = material.getAlphaMode() === 'BLEND' ? opacity : 1
    const id = this.objects.add('Material', material.getName(), '', [
      line('Version', whole(102)),
      line('ShadingModel', text('phong')),
      line('MultiLayer', whole(0)),
      properties(
        ['DiffuseColor', 'Color', '', 'A', ...[red, green, blue].map(srgbOfLinear).map(real)],
        ['EmissiveColor', 'Color', '', 'A', ...glow.map(real)],
        ['SpecularColor', 'Color', '', 'A', real(0), real(0), real(0)],
        ['TransparencyFactor', 'Number', '', 'A', real(1 - see)],
        ['Opacity', 'double', 'Number', '', real(see)],
      ),
    ])
    for (const { role, texture } of listMaterialMaps(material)) {
      if (texture.getImage() === null) continue
      const slot = slots[role]
      if (slot === undefined) this.leftOut.add(`${material.getName()}: FBX has no place for its ${role} map.`)
      else this.addTexture(material, role, texture, id, slot)
    }
    return id
  }

  private addTexture(material: Material, role: MapRole, texture: Texture, id: ObjectId, slot: string): void {
    const place = placeOfMap(material, role)
    if (!isStill({ ...place, set: 0 }))
      this.leftOut.add(`${material.getName()}: how its ${role} map is moved is left out.`)
    const name = this.pictures.nameOf(texture)
    const clamp = place.wrap.map((each) => (each === 'clamp' ? 1 : 0))
    const picture = this.objects.add('Video', texture.getName(), 'Clip', [
      line('Type', text('Clip')),
      properties(['Path', 'KString', 'XRefUrl', '', text(name)]),
      line('UseMipMap', whole(0)),
      line('Filename', text(name)),
      line('RelativeFilename', text(name)),
    ])
    const map = this.objects.add('Texture', texture.getName(), '', [
      line('Type', text('TextureVideoClip')),
      line('Version', whole(202)),
      properties(
        ['UVSet', 'KString', '', '', text(`UV${place.set}`)],
        ['WrapModeU', 'enum', '', '', whole(clamp[0])],
        ['WrapModeV', 'enum', '', '', whole(clamp[1])],
      ),
      line('FileName', text(name)),
      line('RelativeFilename', text(name)),
    ])
    this.objects.connect(picture, map)
    this.objects.connect(map, id, slot)
  }
}
