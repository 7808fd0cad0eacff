import { ImageUtils, type Texture } from '@gltf-transform/core'

/** A picture that goes beside a mesh file. */
export interface PictureFile {
  name: string
  bytes: Uint8Array
}

/** The pictures beside one mesh file: each texture once, under a name that begins with the file's. */
export class PicturesBeside {
  private readonly files = new Map<Texture, PictureFile>()

  /** @param stem name of the mesh file without ending */
  constructor(private readonly stem: string) {}

  /** The file's name of a texture. */
  nameOf(texture: Texture): string {
    const known = this.files.get(texture)
    if (known) return known.name
    const ending = ImageUtils.mimeTypeToExtension(texture.getMimeType())
    const plain = texture.getName().replace(/[^A-Za-z0-9_-]+/g, '_')
    const name = `${this.stem}_${this.files.size + 1}_${plain}.${ending}`
    this.files.set(texture, { name, bytes: texture.getImage() ?? new Uint8Array() })
    return name
  }

  /** Every file that was named, in the order of naming. */
  list(): PictureFile[] {
    return [...this.files.values()]
  }

  /** The textures that were named, with their names. */
  named(): [Texture, string][] {
    return [...this.files].map(([texture, { name }]) => [texture, name])
  }
}
