import { encode as encodePng } from 'fast-png'

/**
 * Which of the seven strokes of a numeral are painted: top, upper left, upper right, middle, lower left, lower right,
 * foot.
 */
const strokes: Record<string, string> = { 2: '1011101', 4: '0111010', 6: '1101111', 8: '1111111' }

const [width, height] = [96, 256]

/** Whether a place (0 to 1 in the numeral's box, from its top left) lies on one of its strokes. */
function onNumeral(numeral: string, x: number, y: number): boolean {
  const on = (stroke: number): boolean => strokes[numeral][stroke] === '1'
  const thick = 0.18
  if (x < 0 || x > 1 || y < 0 || y > 1) return false
  if (on(0) && y < thick) return true
  if (on(6) && y > 1 - thick) return true
  if (on(3) && Math.abs(y - 0.5) < thick / 2) return true
  if (x < thick * 1.4) return y < 0.5 ? on(1) : on(4)
  return x > 1 - thick * 1.4 && (y < 0.5 ? on(2) : on(5))
}

/** The hull's draught marks: numerals over ticks, white where painted and clear elsewhere. */
export function draughtMarksPng(): Uint8Array {
  const data = new Uint8Array(width * height * 4)
  const numerals = ['8', '6', '4', '2']
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const row = Math.floor(y / 64)
      const painted =
        onNumeral(numerals[row], (x - 26) / 30, ((y % 64) - 8) / 40) ||
        (y % 64 >= 54 && y % 64 < 60 && x > 62 && x < 84)
      data.set(painted ? [238, 234, 222, 255] : [238, 234, 222, 0], (y * width + x) * 4)
    }
  }
  return encodePng({ width, height, data, depth: 8, channels: 4 })
}
