import { download } from '../ui/download'
import type { MapFacts, UvLayoutMessage } from '../workers/map-messages'
import { downloadLayoutPng } from './map-controls'

/** How much of a map surfaces cover, and the layout as a file to paint on. */
export function LayoutNote({ layout, map }: { layout: UvLayoutMessage; map: MapFacts }) {
  const asSvg = (): void => download(new TextEncoder().encode(layout.svg), `${map.name}_layout.svg`, 'image/svg+xml')
  return (
    <p className="chip absolute bottom-11 left-3 z-10 flex items-center gap-2.5">
      <span>
        <b className="num">{Math.round(layout.covered * 100)} %</b> covered,{' '}
        <b className="num">{(layout.overlap * 100).toFixed(0)} %</b> of it by several
      </span>
      <button type="button" className="link" onClick={asSvg}>
        SVG to paint on
      </button>
      <button type="button" className="link" onClick={() => void downloadLayoutPng(layout.svg, map)}>
        PNG
      </button>
    </p>
  )
}
