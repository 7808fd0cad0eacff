import type { LayoutView } from './draw-layout'
import type { ChannelView } from './draw-picture'
import type { Zoom } from './map-viewer'

/** How maps are looked at just now. */
export interface MapView {
  channel: ChannelView
  zoom: Zoom
  /** Number of the mipmap, 0 the largest. */
  level: number
  /** Eight times the difference of both sides instead of them. */
  difference: boolean
  layout: LayoutView
  /** Shown several times over, as a tiled map is. */
  repeat: boolean
  /** What stands at each side where no step is open: as drawn, as packed, or in a codec that is tried. */
  left: string
  right: string
}

export const freshMapView = (repeat: boolean): MapView => ({
  channel: 'colour',
  zoom: 'fit',
  level: 0,
  difference: false,
  layout: 'none',
  repeat,
  left: 'drawn',
  right: 'kept',
})
