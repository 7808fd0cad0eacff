import { decodePng, sniffImage } from '../image-codecs.ts'
import type { ImageFormat } from './image-format.ts'

const colourTypes: Record<number, string> = { 0: 'grey', 2: 'RGB', 3: 'palette', 4: 'grey with alpha', 6: 'RGBA' }

/** PNG of 1 to 16 bits, with palettes. */
export const png: ImageFormat = {
  title: 'PNG',
  endings: ['png'],
  begins: (bytes) => sniffImage(bytes) === 'image/png',
  decode: (bytes) =>
    Promise.resolve().then(() => ({
      pixels: decodePng(bytes),
      detail: `${bytes[24]}-bit ${colourTypes[bytes[25]] ?? ''}`.trim(),
    })),
}
