import type { Material, Texture } from '@gltf-transform/core'
import { PicturesBeside } from '../export-pictures.ts'
import { glowFactor, isStill, placeOfMap, type MapRole } from '../material-meaning.ts'
import { listMaterialMaps } from '../source-maps.ts'
import { srgbOfLinear } from '../../maths/srgb.ts'
import { element, numbersText, type Element, type Ids } from './xml-text.ts'

/** Where the common profile has a place for a map; the normal map stands under “extra”, as is usual. */
const slots: Partial<Record<MapRole, 'diffuse' | 'emission' | 'specular'>> = {
  colour: 'diffuse',
  glow: 'emission',
  specular: 'specular',
}

/** Materials, effects and pictures of an item. */
export class ColladaMaterials {
  readonly pictures: PicturesBeside
  readonly leftOut = new Set<string>()

  constructor(
    private readonly ids: Ids,
    stem: string,
  ) {
    this.pictures = new PicturesBeside(stem)
  }

  libraries(materials: readonly Material[]): Element[] {
    if (materials.length === 0) return []
    const effects = materials.map((material) => this.effectOf(material))
    const images = this.pictures
      .named()
      .map(([texture, name]) =>
        element(
          'image',
          { id: this.ids.for(texture, name), name: texture.getName() },
          element('init_from', {}, encodeURI(name)),
        ),
      )
    return [
      ...(images.length > 0 ? [element('library_images', {}, ...images)] : []),
      element('library_effects', {}, ...effects),
      element(
        'library_materials',
        {},
        ...materials.map((material) =>
          element(
            'material',
            { id: this.ids.for(material, material.getName()), name: material.getName() },
            element('instance_effect', { url: `#${this.effectId(material)}` }),
          ),
        ),
      ),
    ]
  }

  private effectId(material: Material): string {
    return `${this.ids.for(material, material.getName())}-effect`
  }

  private effectOf(material: Material): Element {
    const parameters: Element[] = []
    const textures = new Map<MapRole, Element>()
    for (const { role, texture } of listMaterialMaps(material)) {
      if (texture.getImage() === null) continue
      if (slots[role] === undefined && role !== 'normal') {
        this.leftOut.add(`${material.getName()}: COLLADA has no place for its ${role} map.`)
        continue
      }
      textures.set(role, this.textureOf(material, role, texture, parameters))
    }
    const [red, green, blue, opacity] = material.getBaseColorFactor()
    const colour = (values: readonly number[]): Element => element('color', {}, numbersText(values))
    const glow = glowFactor(material).map((value) => srgbOfLinear(Math.min(1, value)))
    const see = material.getAlphaMode() === 'BLEND' ? opacity : 1
    const bump = textures.get('normal')
    return element(
      'effect',
      { id: this.effectId(material), name: material.getName() },
      element(
        'profile_COMMON',
        {},
        ...parameters,
        element(
          'technique',
          { sid: 'common' },
          element(
            'phong',
            {},
            element('emission', {}, textures.get('glow') ?? colour([...glow, 1])),
            element(
              'diffuse',
              {},
              textures.get('colour') ?? colour([srgbOfLinear(red), srgbOfLinear(green), srgbOfLinear(blue), 1]),
            ),
            element('specular', {}, textures.get('specular') ?? colour([0, 0, 0, 1])),
            element('transparent', { opaque: 'A_ONE' }, colour([1, 1, 1, 1])),
            element('transparency', {}, element('float', {}, numbersText([see]))),
          ),
          ...(bump
            ? [element('extra', {}, element('technique', { profile: 'common' }, element('bump', {}, bump)))]
            : []),
        ),
        ...(material.getDoubleSided()
          ? [element('extra', {}, element('technique', { profile: 'common' }, element('double_sided', {}, '1')))]
          : []),
      ),
    )
  }

  /** A texture by way of a sampler and a surface (COLLADA 1.4.1, chapter 8, “newparam”). */
  private textureOf(material: Material, role: MapRole, texture: Texture, parameters: Element[]): Element {
    const place = placeOfMap(material, role)
    if (!isStill({ ...place, set: 0 }))
      this.leftOut.add(`${material.getName()}: how its ${role} map is moved has no place in COLLADA.`)
    const image = this.ids.for(texture, this.pictures.nameOf(texture))
    const stem = this.ids.for({ material, role }, `${material.getName()}-${role}`)
    const wrap = { repeat: 'WRAP', mirror: 'MIRROR', clamp: 'CLAMP' } as const
    parameters.push(
      element(
        'newparam',
        { sid: `${stem}-surface` },
        element('surface', { type: '2D' }, element('init_from', {}, image)),
      ),
      element(
        'newparam',
        { sid: `${stem}-sampler` },
        element(
          'sampler2D',
          {},
          element('source', {}, `${stem}-surface`),
          element('wrap_s', {}, wrap[place.wrap[0]]),
          element('wrap_t', {}, wrap[place.wrap[1]]),
        ),
      ),
    )
    return element('texture', { texture: `${stem}-sampler`, texcoord: `UV${place.set}` })
  }
}
