import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Picture } from './surface.ts'

/** Whether Pillow is at hand, which opens the pictures here. */
export const pillowIsPresent = (): boolean => existsSync('/usr/lib/python3/dist-packages/PIL')

const SCRIPT = `
import sys, struct
from PIL import Image, ImageOps
Image.MAX_IMAGE_PIXELS = None
for path in sys.stdin.read().split('\\n'):
    if not path: continue
    try:
        picture = Image.open(path)
        picture.load()
        if picture.mode == 'I;16' or picture.mode == 'I':
            picture = picture.point(lambda value: value * (255.0 / 65535.0)).convert('L')
        picture = ImageOps.exif_transpose(picture).convert('RGBA')
        with open(path + '.raw', 'wb') as out:
            out.write(struct.pack('<II', picture.width, picture.height))
            out.write(picture.tobytes())
    except Exception as error:
        print(path, error)
`

/** DX10 headers of BC1 and BC3 are rewritten to the older ones, which Pillow reads. */
function withOldHeader(bytes: Uint8Array): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.length < 148 || view.getUint32(0, true) !== 0x20534444 || view.getUint32(84, true) !== 0x30315844)
    return bytes
  const old = ({ 71: 0x31545844, 72: 0x31545844, 77: 0x35545844, 78: 0x35545844 } as Record<number, number>)[
    view.getUint32(128, true)
  ]
  if (old === undefined) return bytes
  const rewritten = new Uint8Array(bytes.length - 20)
  rewritten.set(bytes.subarray(0, 128))
  rewritten.set(bytes.subarray(148), 128)
  new DataView(rewritten.buffer).setUint32(84, old, true)
  return rewritten
}

/** Decodes pictures with Pillow, all in one process; null where it cannot. */
export function decodeWithPillow(pictures: readonly Uint8Array[]): (Picture | null)[] {
  if (pictures.length === 0) return []
  const folder = mkdtempSync(join(tmpdir(), 'pictures-'))
  try {
    const paths = pictures.map((bytes, number) => {
      const path = join(folder, String(number))
      writeFileSync(path, withOldHeader(bytes))
      return path
    })
    spawnSync('/usr/bin/python3', ['-c', SCRIPT], { input: paths.join('\n'), timeout: 120_000 })
    return paths.map((path) => {
      if (!existsSync(`${path}.raw`)) return null
      const raw = new Uint8Array(readFileSync(`${path}.raw`))
      const view = new DataView(raw.buffer, raw.byteOffset)
      return { width: view.getUint32(0, true), height: view.getUint32(4, true), rgba: raw.subarray(8) }
    })
  } finally {
    rmSync(folder, { recursive: true })
  }
}
