import type { ByteReader } from '../../support/byte-reader.ts'
import { chainMatrices, decomposeMatrix, rotationMatrix, type Matrix } from '../../maths/matrices.ts'
import { identityMatrix } from '../../maths/axes.ts'
import type { ChunkWalker } from './chunks.ts'

/** A node of the keyframe section: where an object hangs and how it moves. */
export interface Frame3ds {
  id: number
  /** Name of the object, or of the dummy. */
  name: string
  isDummy: boolean
  parent: number | null
  pivot: number[]
  positions: Track3ds
  /** Turns as x, y, z, w. */
  rotations: Track3ds
  scales: Track3ds
}

export interface Track3ds {
  frames: number[]
  values: number[][]
}

const LONGEST_NAME = 4096
const NO_PARENT = 0xffff

/**
 * An object node block (0xB002 and its like for lights and cameras).
 * @example frames.push(readFrame(walker, block, frames.length))
 */
export function readFrame(walker: ChunkWalker, block: ByteReader, order: number): Frame3ds {
  const empty = (): Track3ds => ({ frames: [], values: [] })
  const frame: Frame3ds = {
    id: order,
    name: '',
    isDummy: false,
    parent: null,
    pivot: [0, 0, 0],
    positions: empty(),
    rotations: empty(),
    scales: empty(),
  }
  walker.each(block, (id, content) => {
    if (id === 0xb030) frame.id = content.uint16()
    else if (id === 0xb010) {
      frame.name = content.textToZero(LONGEST_NAME)
      content.uint32()
      const parent = content.uint16()
      frame.parent = parent === NO_PARENT ? null : parent
      frame.isDummy = frame.name === '$$$DUMMY'
    } else if (id === 0xb011) {
      const instance = content.textToZero(LONGEST_NAME)
      if (frame.isDummy && instance !== '') frame.name = instance
    } else if (id === 0xb013) frame.pivot = [content.float32(), content.float32(), content.float32()]
    else if (id === 0xb020) frame.positions = readTrack(content, 3)
    else if (id === 0xb021) frame.rotations = turnsOf(readTrack(content, 4))
    else if (id === 0xb022) frame.scales = readTrack(content, 3)
  })
  return frame
}

/** Keys of a track: frame number, easing that is passed over, values. */
function readTrack(content: ByteReader, size: number): Track3ds {
  const track: Track3ds = { frames: [], values: [] }
  content.take(10)
  const count = content.uint32()
  for (let key = 0; key < count && content.left > 0; key++) {
    const frame = content.uint32()
    const easing = content.uint16()
    for (let bit = 0; bit < 5; bit++) if (easing & (1 << bit)) content.float32()
    track.frames.push(frame)
    track.values.push(Array.from({ length: size }, () => content.float32()))
  }
  return track
}

/** Each key turns on from the one before, by an angle about an axis: summed up to whole turns. */
function turnsOf(track: Track3ds): Track3ds {
  let turn: Matrix = identityMatrix()
  const values = track.values.map(([angle, x, y, z]) => {
    // The format counts angles clockwise, looking along the axis.
    turn = chainMatrices(rotationMatrix(x, y, z, -angle), turn)
    return decomposeMatrix(turn).rotation
  })
  return { frames: track.frames, values }
}
