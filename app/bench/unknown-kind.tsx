import type { CrateItem } from '../../core/crate/schema'
import { WithRail } from '../crate/with-rail'
import { CrateRouteBar } from '../crate/crate-route-bar'
import { useCrate } from '../crate/use-crate'

/** An item whose kind the game does not have: nothing can be said of it until another is chosen. */
export function UnknownKind({ item }: { item: CrateItem }) {
  const { crate, rulebook, send } = useCrate()
  return (
    <>
      <CrateRouteBar current="intake" />
      <WithRail crate={crate}>
        <div className="min-w-0 flex-1 overflow-y-auto p-10">
          <h1 className="text-[24px]">{item.name}</h1>
          <p className="mt-2 max-w-xl">
            {rulebook.title} has no kind “{item.kind}”. Choose what it is in this game; its source and its steps stay as
            they are.
          </p>
          <ul className="mt-4 flex flex-wrap gap-2">
            {rulebook.kinds.map(({ id }) => (
              <li key={id}>
                <button
                  type="button"
                  className="button"
                  onClick={() => void send({ do: 'set-kind', item: item.id, kind: id })}
                >
                  {id}
                </button>
              </li>
            ))}
          </ul>
        </div>
      </WithRail>
    </>
  )
}
