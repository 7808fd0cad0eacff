/** Pixels as the workers hand them over: RGBA, 8 bits a channel. */
export interface Picture {
  width: number
  height: number
  data: Uint8Array
}

/** What of a picture is shown: its colours over a chequered ground, or one channel as grey. */
export const channelViews = ['colour', 'red', 'green', 'blue', 'alpha'] as const
export type ChannelView = (typeof channelViews)[number]

/**
 * The picture as the screen shows it; a channel alone becomes grey and opaque. Only a colour map's alpha is opacity.
 */
export function visiblePicture(picture: Picture, view: ChannelView, isColour: boolean): Picture {
  const { width, height, data } = picture
  if (view === 'colour')
    return isColour ? picture : { width, height, data: data.map((value, at) => (at % 4 === 3 ? 255 : value)) }
  const channel = channelViews.indexOf(view) - 1
  const shown = new Uint8Array(data.length)
  for (let at = 0; at < data.length; at += 4) {
    shown[at] = shown[at + 1] = shown[at + 2] = data[at + channel]
    shown[at + 3] = 255
  }
  return { width, height, data: shown }
}

const AMPLIFIED = 8

/** How far two pictures of one size differ, eight times as strong; of one channel, or of all colours. */
export function differencePicture(first: Picture, second: Picture, view: ChannelView): Picture {
  const data = new Uint8Array(first.data.length)
  const one = view === 'colour' ? null : channelViews.indexOf(view) - 1
  for (let at = 0; at < data.length; at += 4) {
    for (let channel = 0; channel < 3; channel++) {
      const from = at + (one ?? channel)
      data[at + channel] = Math.min(255, Math.abs(first.data[from] - second.data[from]) * AMPLIFIED)
    }
    data[at + 3] = 255
  }
  return { width: first.width, height: first.height, data }
}

const sheets = new WeakMap<Picture, HTMLCanvasElement>()

/** A canvas that holds the picture one to one. */
function sheetOf(picture: Picture): HTMLCanvasElement {
  const known = sheets.get(picture)
  if (known) return known
  const sheet = document.createElement('canvas')
  sheet.width = picture.width
  sheet.height = picture.height
  sheet
    .getContext('2d')
    ?.putImageData(new ImageData(new Uint8ClampedArray(picture.data), picture.width, picture.height), 0, 0)
  sheets.set(picture, sheet)
  return sheet
}

/** Draws a picture so that it fills the canvas, its sides cut where they do not fit. */
export function drawPicture(canvas: HTMLCanvasElement, picture: Picture): void {
  const context = canvas.getContext('2d')
  if (!context) return
  const scale = Math.max(canvas.width / picture.width, canvas.height / picture.height)
  context.clearRect(0, 0, canvas.width, canvas.height)
  context.drawImage(
    sheetOf(picture),
    (canvas.width - picture.width * scale) / 2,
    (canvas.height - picture.height * scale) / 2,
    picture.width * scale,
    picture.height * scale,
  )
}

const CHEQUER_PIXELS = 9
let chequer: HTMLCanvasElement | null = null

/** What lies under clear pixels. */
function drawChequer(context: CanvasRenderingContext2D, x: number, y: number, width: number, height: number): void {
  if (!chequer) {
    chequer = document.createElement('canvas')
    chequer.width = chequer.height = CHEQUER_PIXELS * 2
    const tile = chequer.getContext('2d')
    if (tile) {
      tile.fillStyle = '#f3eee4'
      tile.fillRect(0, 0, CHEQUER_PIXELS * 2, CHEQUER_PIXELS * 2)
      tile.fillStyle = '#ddd4c2'
      tile.fillRect(0, 0, CHEQUER_PIXELS, CHEQUER_PIXELS)
      tile.fillRect(CHEQUER_PIXELS, CHEQUER_PIXELS, CHEQUER_PIXELS, CHEQUER_PIXELS)
    }
  }
  const pattern = context.createPattern(chequer, 'repeat')
  if (!pattern) return
  context.fillStyle = pattern
  context.fillRect(x, y, width, height)
}

/** Where a picture lies in a view: its pixels are drawn `scale` times as large, its left top corner at x, y. */
export interface Placement {
  scale: number
  x: number
  y: number
}

/**
 * Draws a picture's pixels, between two places across the view; large pixels keep their edges. Beyond its edges it
 * repeats, as on the mesh.
 */
export function drawPart(
  context: CanvasRenderingContext2D,
  picture: Picture,
  place: Placement,
  from: number,
  to: number,
  height: number,
  repeat: boolean,
): void {
  if (to <= from) return
  context.save()
  context.beginPath()
  context.rect(from, 0, to - from, height)
  context.clip()
  context.imageSmoothingEnabled = place.scale < 1
  if (!repeat) drawChequer(context, place.x, place.y, picture.width * place.scale, picture.height * place.scale)
  const [w, h] = [picture.width * place.scale, picture.height * place.scale]
  const sheet = sheetOf(picture)
  if (!repeat) context.drawImage(sheet, place.x, place.y, w, h)
  else {
    const [startX, startY] = [place.x - Math.ceil(place.x / w) * w, place.y - Math.ceil(place.y / h) * h]
    for (let y = startY; y < height; y += h)
      for (let x = startX; x < to; x += w) if (x + w > from) context.drawImage(sheet, x, y, w, h)
  }
  context.restore()
}
