import { builtInRulebooks, laterRulebook } from '../../core/game/load'
import { useOwnRulebooks } from '../queries/rulebook-queries'
import { useCrate } from '../crate/use-crate'
import { tellError } from '../ui/notify'
import { RuleChanges } from './rule-changes'
import { beginWith } from '../workers/clients'

/** Says that the crate carries an older rulebook than one at hand, and takes the later one when asked. */
export function LaterRulebook() {
  const { rulebook, send } = useCrate()
  const own = useOwnRulebooks()
  const written = own.flatMap(({ rulebook: each }) => each ?? [])
  const later = laterRulebook(rulebook, [...builtInRulebooks(), ...written])
  const mine = own.find(({ rulebook: each }) => each === later)
  if (!later) return null
  const take = async (): Promise<void> => {
    try {
      const game = await beginWith(mine ? { own: mine.key } : { id: later.id })
      await send({ do: 'set-game', rulebook: game.rulebook, stock: game.stock })
    } catch (error) {
      tellError(error)
    }
  }
  return (
    <div className="mx-auto mt-6 w-full max-w-5xl px-8">
      <p className="flex items-center gap-3">
        <span className="rounded-lg border border-edge-strong bg-slip px-3 py-1.5">
          This crate carries rulebook <b className="num">{rulebook.version}</b>; version{' '}
          <b className="num">{later.version}</b> of {later.title}{' '}
          {mine ? 'is among your rulebooks' : 'ships with the program'}.
        </span>
        <button type="button" className="button" onClick={() => void take()}>
          Use {later.version}
        </button>
      </p>
      <RuleChanges from={rulebook} to={later} />
    </div>
  )
}
