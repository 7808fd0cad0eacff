import { Radio, RadioGroup } from '@headlessui/react'
import { useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'
import type { Kind } from '../../core/game/schema'
import { ItemPicture } from '../crate/item-picture'
import { KindMark } from '../crate/kind-mark'
import { DialogFrame } from '../ui/dialog-frame'
import { ProgressStrip } from '../ui/progress-strip'
import { GameFields } from './game-fields'
import type { GameChoice } from '../workers/source-messages'
import type { Beginning } from './use-begin-with'

interface BeginDialogProps {
  beginning: Beginning | null
  onGame: (choice: GameChoice) => void
  onBegin: (name: string, kinds: Readonly<Record<string, string>>) => void
  onClose: () => void
}

const MOST_LISTED = 6

/** What was dropped on the shelf: for which game, and what it becomes there; then it is prepared. */
export function BeginDialog({ beginning, onGame, onBegin, onClose }: BeginDialogProps) {
  const [kinds, setKinds] = useState<Record<string, string>>({})
  const read = beginning?.read ?? null
  const [only, another] = read?.items ?? []
  const chosen = read && only ? (kinds[only.id] ?? only.kind) : ''
  return (
    <DialogFrame
      open={beginning !== null}
      title={read && another ? `Begin a crate with ${read.items.length} items` : 'Begin a crate with it'}
      action={another ? 'Begin' : 'Prepare it'}
      disabled={read === null}
      wide
      onClose={() => {
        setKinds({})
        onClose()
      }}
      onSubmit={(data) => {
        setKinds({})
        onBegin(String(data.get('name')), another ? {} : { [only?.id ?? '']: chosen })
      }}
    >
      <div className="grid grid-cols-2 items-start gap-4">
        <label className="flex flex-col gap-1">
          <span className="caption">Name of the mod</span>
          <input
            name="name"
            className="field py-1.5"
            required
            maxLength={200}
            defaultValue={beginning?.name}
            key={beginning?.name}
          />
        </label>
        <div className="flex flex-col gap-2">
          <GameFields onChoose={onGame} />
        </div>
      </div>
      {beginning && !read && (
        <ProgressStrip
          title="Reading"
          doing={beginning.progress.doing}
          fraction={beginning.progress.fraction}
          of="of the files"
          onStop={onClose}
        />
      )}
      {read && only && !another && (
        <OneItem
          item={only}
          game={read.game}
          guess={read.guesses[0]}
          chosen={chosen}
          onChoose={(kind) => setKinds({ [only.id]: kind })}
        />
      )}
      {read && another && <ManyItems items={read.items} game={read.game} />}
    </DialogFrame>
  )
}

interface OneItemProps {
  item: CrateItem
  game: Game
  guess: readonly { kind: string; reason: string }[]
  chosen: string
  onChoose: (kind: string) => void
}

/** The item's own picture beside the kinds that it may become, the likeliest first. */
function OneItem({ item, game, guess, chosen, onChoose }: OneItemProps) {
  const kinds = guess.flatMap(({ kind }) => game.rulebook.kinds.find(({ id }) => id === kind) ?? [])
  return (
    <div className="flex gap-4">
      <figure className="flex w-[176px] shrink-0 flex-col gap-1">
        <ItemPicture crateId="" item={item} game={game} size={176} urgent />
        <figcaption className="truncate text-[13px] text-ink-2">{item.main.split('/').pop()}</figcaption>
      </figure>
      <div className="min-w-0 flex-1">
        <p className="caption" id="kind-asked">
          What does it become?
        </p>
        <p className="text-[12.5px] text-ink-2">{guess[0]?.reason}</p>
        <RadioGroup
          value={chosen}
          onChange={onChoose}
          aria-labelledby="kind-asked"
          className="relative mt-1 grid max-h-[250px] grid-cols-2 gap-1.5 overflow-y-auto"
        >
          {kinds.map((kind) => (
            <KindChoice key={kind.id} kind={kind} />
          ))}
        </RadioGroup>
      </div>
    </div>
  )
}

function KindChoice({ kind }: { kind: Kind }) {
  return (
    <Radio
      value={kind.id}
      className="flex cursor-pointer items-center gap-2 rounded-lg border border-edge-strong bg-paper p-1.5 text-[12.5px] leading-tight data-checked:border-2 data-checked:border-spruce data-checked:bg-spruce-wash"
    >
      <KindMark kind={kind} size={40} />
      <span className="min-w-0">
        <b className="block font-semibold">{kind.title}</b>
        <span className="block text-[11.5px] text-ink-2">{kind.summary}</span>
      </span>
    </Radio>
  )
}

function ManyItems({ items, game }: { items: readonly CrateItem[]; game: Game }) {
  return (
    <ul className="grid grid-cols-2 gap-2 text-[13px]">
      {items.slice(0, MOST_LISTED).map((item) => (
        <li key={item.id} className="flex items-center gap-2">
          <ItemPicture crateId="" item={item} game={game} size={44} />
          <span className="min-w-0 leading-tight">
            <b className="block truncate font-semibold">{item.name}</b>
            <span className="text-ink-2">{game.rulebook.kinds.find(({ id }) => id === item.kind)?.title}</span>
          </span>
        </li>
      ))}
      {items.length > MOST_LISTED && <li className="text-ink-2">and {items.length - MOST_LISTED} more</li>}
    </ul>
  )
}
