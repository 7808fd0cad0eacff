import { useState } from 'react'
import { builtInRulebooks } from '../../core/game/load'
import { useOwnRulebooks } from '../queries/rulebook-queries'
import type { GameChoice } from '../workers/source-messages'

const OF_A_FILE = 'a file'
const KEPT = 'own:'

const choiceOf = (value: string): GameChoice =>
  value.startsWith(KEPT) ? { own: value.slice(KEPT.length) } : { id: value }

/**
 * What was chosen in the fields of a form.
 * @throws Error when a file is wanted and none was chosen
 */
export async function chosenGame(data: FormData): Promise<GameChoice> {
  const chosen = String(data.get('game'))
  if (chosen !== OF_A_FILE) return choiceOf(chosen)
  const file = data.get('file')
  if (!(file instanceof File) || file.size === 0) throw new Error('Choose the rulebook’s file first.')
  return { bytes: new Uint8Array(await file.arrayBuffer()), name: file.name }
}

/**
 * Asks for a game: one that ships, or a rulebook in a file.
 * @param onChoose told at once, where something has to be done with the game before the form is sent
 */
export function GameFields({ onChoose }: { onChoose?: (choice: GameChoice) => void }) {
  const [chosen, setChosen] = useState(builtInRulebooks()[0].id)
  const own = useOwnRulebooks().filter(({ rulebook }) => rulebook !== null)
  return (
    <>
      <label className="flex flex-col gap-1">
        <span className="caption">Packs for</span>
        <select
          name="game"
          className="field py-1.5"
          value={chosen}
          onChange={({ target: { value } }) => {
            setChosen(value)
            if (value !== OF_A_FILE) onChoose?.(choiceOf(value))
          }}
        >
          {builtInRulebooks().map((rulebook) => (
            <option key={rulebook.id} value={rulebook.id}>
              {rulebook.title} {rulebook.version}
            </option>
          ))}
          {own.map(({ key, rulebook }) => (
            <option key={key} value={KEPT + key}>
              {rulebook?.title} {rulebook?.version}, your own
            </option>
          ))}
          <option value={OF_A_FILE}>Another game, from its rulebook file…</option>
        </select>
      </label>
      {chosen === OF_A_FILE && (
        <label className="flex flex-col gap-1">
          <span className="caption">Rulebook file</span>
          <input
            name="file"
            type="file"
            accept=".json,.zip"
            required
            onChange={async ({ target }) => {
              const file = target.files?.[0]
              if (file) onChoose?.({ bytes: new Uint8Array(await file.arrayBuffer()), name: file.name })
            }}
            className="text-[13px] file:mr-2 file:rounded-md file:border file:border-edge-strong file:bg-slip file:px-2.5 file:py-1 file:font-semibold"
          />
          <span className="text-[13px] text-ink-2">
            A rulebook as JSON, or a ZIP with <span className="num">rulebook.json</span> and{' '}
            <span className="num">stock.zip</span>. It is kept in the crate.
          </span>
        </label>
      )}
    </>
  )
}
