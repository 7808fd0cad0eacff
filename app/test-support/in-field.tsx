import { useState } from 'react'
import { FieldControl } from '../bench/fields'
import type { Field, PartChoice } from '../workers/field-messages'
import { crateOf, entryOf, itemOf, showInCrate, type Shown } from './in-crate'

const part = (name: string, role: PartChoice['role'] = 'part'): PartChoice => ({
  name,
  role,
  bounds: { min: [0, 0, 0], max: [2, 4, 6] },
})
const parts = [part('arch'), part('leaf'), part('arch_level_1', 'level')]

/** A setting of a step whose value stays as somebody sets it: all that it was set to, in order. */
export async function showField(field: Field, first: unknown): Promise<Shown & { values: unknown[] }> {
  const values: unknown[] = []
  function Kept() {
    const [value, setValue] = useState(first)
    return (
      <FieldControl
        entry="step-1"
        field={field}
        value={value}
        parts={parts}
        onChange={(next) => {
          values.push(next)
          setValue(next)
        }}
      />
    )
  }
  const item = itemOf('Gate', { worklist: [entryOf('step-1', 'weld', { moved: [0, 0, 0] })] })
  return { ...(await showInCrate(<Kept />, crateOf(item))), values }
}
