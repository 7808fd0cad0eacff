import { useCrate } from '../crate/use-crate'
import { LaterRulebook } from '../rulebooks/later-rulebook'
import { RulebookPage } from '../rulebooks/rulebook-page'

export default function CrateRulebookRoute() {
  const { rulebook } = useCrate()
  return (
    <div className="min-h-0 flex-1 overflow-y-auto">
      <LaterRulebook />
      <RulebookPage rulebook={rulebook} />
    </div>
  )
}
