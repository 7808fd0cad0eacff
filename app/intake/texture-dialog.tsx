import { Radio, RadioGroup } from '@headlessui/react'
import { useEffect, useMemo, useRef, useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { useCrate } from '../crate/use-crate'
import { useThumbnails } from '../queries/source-queries'
import { DialogFrame } from '../ui/dialog-frame'
import { formatBytes } from '../ui/format'
import { tellError } from '../ui/notify'
import type { SourceReport, Thumbnail } from '../workers/source-messages'

interface TextureDialogProps {
  item: CrateItem
  references: SourceReport['references']
  /** Path as written; null when nothing is asked. */
  path: string | null
  onClose: () => void
  onBringMore: () => void
}

const STOCK = 'stock:'
const nameOf = (path: string): string => (path.split(/[\\/]/).pop() ?? path).toLowerCase()

/**
 * Which file a written path means: one of the images that were brought, one of the game's own, or what is found by
 * name.
 */
export function TextureDialog({ item, references, path, onClose, onBringMore }: TextureDialogProps) {
  const { rulebook, send } = useCrate()
  const [chosen, setChosen] = useState<string | null>(null)
  const thumbnails = useThumbnails(path === null ? null : item)
  const present = path === null ? '' : (item.reading.links[path] ?? '')
  const value = chosen ?? present
  // All references to a file of this name follow, however each material wrote the path.
  const alike = useMemo(
    () =>
      [...new Set(references.map((reference) => reference.path))].filter(
        (each) => path !== null && (each === path || nameOf(each) === nameOf(path)),
      ),
    [references, path],
  )
  const close = (): void => {
    setChosen(null)
    onClose()
  }
  const accept = async (): Promise<void> => {
    try {
      await send({ do: 'set-reading', item: item.id, reading: { links: linksWith(item.reading.links, alike, value) } })
      close()
    } catch (error) {
      tellError(error)
    }
  }
  const sameName = (thumbnail: Thumbnail): boolean => path !== null && nameOf(thumbnail.path) === nameOf(path)
  const sorted = [...thumbnails].sort((a, b) => Number(sameName(b)) - Number(sameName(a)))
  return (
    <DialogFrame
      open={path !== null}
      title="Which file is meant?"
      action="Use it"
      onClose={close}
      onSubmit={() => void accept()}
      wide
    >
      <p className="text-[13px]">
        Written as <span className="num break-all">{path}</span>
        {alike.length > 1 && (
          <>
            , and {alike.length - 1} other {alike.length === 2 ? 'path' : 'paths'} to a file of the same name: all
            follow.
          </>
        )}
      </p>
      <RadioGroup
        value={value}
        onChange={setChosen}
        aria-label="File"
        className="grid max-h-[380px] grid-cols-[repeat(auto-fill,minmax(148px,1fr))] gap-2 relative overflow-y-auto"
      >
        <Choice value="" title="By its name" note="searched among the files" />
        {sorted.map((thumbnail) => (
          <Choice
            key={thumbnail.path}
            value={thumbnail.path}
            title={thumbnail.path}
            note={
              `${thumbnail.width} × ${thumbnail.height} · ` +
              `${formatBytes(thumbnail.bytes)}${sameName(thumbnail) ? ' · same name' : ''}`
            }
            thumbnail={thumbnail}
          />
        ))}
        {rulebook.stock.textures.map((texture) => (
          <Choice
            key={texture.path}
            value={`${STOCK}${texture.path}`}
            title={texture.path}
            note="the game’s own: not packed"
          />
        ))}
      </RadioGroup>
      <button type="button" className="link self-start" onClick={onBringMore}>
        Bring more images
      </button>
    </DialogFrame>
  )
}

function linksWith(
  links: Readonly<Record<string, string>>,
  written: readonly string[],
  file: string,
): Record<string, string> {
  const rest = Object.fromEntries(Object.entries(links).filter(([path]) => !written.includes(path)))
  return file === '' ? rest : { ...rest, ...Object.fromEntries(written.map((path) => [path, file])) }
}

function Choice({
  value,
  title,
  note,
  thumbnail,
}: {
  value: string
  title: string
  note: string
  thumbnail?: Thumbnail
}) {
  return (
    <Radio
      value={value}
      className="group cursor-pointer rounded-lg border border-edge-strong bg-paper p-2 text-[13px] data-checked:border-2 data-checked:border-spruce data-checked:bg-spruce-wash"
    >
      <span className="grid h-[76px] place-items-center">
        {thumbnail ? (
          <Picture thumbnail={thumbnail} />
        ) : (
          <span className="text-[24px] text-ink-2" aria-hidden="true">
            {value === '' ? '⌕' : '▤'}
          </span>
        )}
      </span>
      <span className="block truncate font-semibold" title={title}>
        {title.split('/').pop()}
      </span>
      <span className="block text-[12px] text-ink-2">{note}</span>
    </Radio>
  )
}

function Picture({ thumbnail }: { thumbnail: Thumbnail }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { width, height, data } = thumbnail.pixels
  useEffect(() => {
    canvas.current
      ?.getContext('2d')
      ?.putImageData(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height), 0, 0)
  }, [data, width, height])
  return <canvas ref={canvas} width={width} height={height} className="rounded border border-edge" />
}
