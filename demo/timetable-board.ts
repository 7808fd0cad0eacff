import { grain, hash } from './noise.ts'
import { paint, toJpeg } from './paint.ts'

/** The key that is to be cut away round the board. */
const key: [number, number, number] = [12, 200, 60]

/** The Timetable board: one JPEG, a board with rounded corners and rows of times on a green ground. */
export function timetableJpeg(): Uint8Array {
  const picture = paint(480, 640, (u, v) => {
    const [x, y] = [Math.abs(u - 0.5) / 0.46, Math.abs(v - 0.5) / 0.47]
    if (Math.max(x, y) > 1 || Math.hypot(Math.max(0, x - 0.86) / 0.14, Math.max(0, y - 0.9) / 0.1) > 1) return key
    if (Math.max(x, y * 0.99) > 0.95) return [70, 48, 30]
    const [row, column] = [Math.floor(v * 18), Math.floor(u * 24)]
    const isInk =
      row > 2 &&
      row < 16 &&
      row % 2 === 1 &&
      column > 3 &&
      column < 20 &&
      (v * 18) % 1 > 0.25 &&
      hash(row, column) > 0.35
    const isTitle = row === 1 && column > 4 && column < 19
    const paper = 226 - 22 * grain(u * 9, v * 9)
    return isTitle ? [40, 74, 66] : isInk ? [52, 50, 46] : [paper, paper - 8, paper - 30]
  })
  return toJpeg(picture, 80)
}
