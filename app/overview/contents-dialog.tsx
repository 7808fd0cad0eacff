import { useState } from 'react'
import { DialogFrame } from '../ui/dialog-frame'
import { tellError } from '../ui/notify'
import type { ArchiveContents } from '../workers/source-messages'

interface ContentsDialogProps {
  contents: ArchiveContents | null
  onClose: () => void
  onTake: (items: string[], textures: string[]) => Promise<void>
}

/** What is in a pack or crate file that was brought, and what of it is to be taken out. */
export function ContentsDialog({ contents, onClose, onTake }: ContentsDialogProps) {
  const [busy, setBusy] = useState(false)
  if (!contents) return null
  const take = async (data: FormData): Promise<void> => {
    const items = data.getAll('item').map(String)
    const textures = data.getAll('texture').map(String)
    if (items.length + textures.length === 0) return
    setBusy(true)
    try {
      await onTake(items, textures)
      onClose()
    } catch (error) {
      tellError(error)
    } finally {
      setBusy(false)
    }
  }
  return (
    <DialogFrame
      open
      title={`${contents.title} is a ${contents.kind === 'pack' ? 'pack' : 'crate file'}`}
      action={busy ? 'Taking out…' : 'Take out'}
      onClose={onClose}
      onSubmit={(data) => void take(data)}
    >
      <Choices
        name="item"
        legend="Items"
        choices={contents.items.map((item) => ({ value: item.name, note: item.kind }))}
      />
      <Choices
        name="texture"
        legend="Textures, each as an item of its own"
        choices={contents.textures.map((path) => ({ value: path, note: '' }))}
      />
      <p className="text-[13px] text-ink-2">
        {contents.kind === 'pack'
          ? 'Items come as the game reads them: in its unit, with their maps, solids and levels.'
          : 'Items come with their sources and worklists.'}
      </p>
    </DialogFrame>
  )
}

function Choices({
  name,
  legend,
  choices,
}: {
  name: string
  legend: string
  choices: { value: string; note: string }[]
}) {
  if (choices.length === 0) return null
  return (
    <fieldset className="max-h-52 relative overflow-y-auto">
      <legend className="caption">{legend}</legend>
      {choices.map((choice) => (
        <label
          key={choice.value}
          className="flex items-center gap-2 border-b border-dashed border-edge py-1 text-[13px]"
        >
          <input type="checkbox" name={name} value={choice.value} />
          <span className="min-w-0 flex-1 truncate">{choice.value}</span>
          <span className="text-ink-2">{choice.note}</span>
        </label>
      ))}
    </fieldset>
  )
}
