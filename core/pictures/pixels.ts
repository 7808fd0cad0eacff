/** Pixels in memory: RGBA, 8 bits a channel, top row first. */
export interface Pixels {
  width: number
  height: number
  data: Uint8Array
}

/** Whether any pixel is less than fully opaque. */
export function hasTransparency({ data }: Pixels): boolean {
  for (let offset = 3; offset < data.length; offset += 4) if (data[offset] < 255) return true
  return false
}
