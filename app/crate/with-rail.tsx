import type { ReactNode } from 'react'
import type { Crate } from '../../core/crate/schema'
import { ItemRail } from './item-rail'
import { Split } from './panels'

/** The crate's items at the left of what is worked on; how wide they are stays. */
export function WithRail({ crate, children }: { crate: Crate; children: ReactNode }) {
  return (
    <main className="flex min-h-0 flex-1">
      <Split
        id="rail"
        orientation="horizontal"
        sized="first"
        pixels={188}
        least={64}
        most={420}
        label="Width of the list of items"
        first={<ItemRail crate={crate} />}
        second={children}
      />
    </main>
  )
}
