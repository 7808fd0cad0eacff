import type { JSONPath } from 'jsonc-parser'
import { createContext, useContext } from 'react'
import type { DraftFault } from './draft'

/** What the fields of the form do with the draft. */
export interface FormActions {
  faults: readonly DraftFault[]
  /** Puts another value at a place; undefined takes the field out. */
  change: (path: JSONPath, value: unknown) => void
  /** Puts one more into a list. */
  add: (path: JSONPath, length: number, value: unknown) => void
}

export const FormContext = createContext<FormActions | null>(null)

export function useForm(): FormActions {
  const form = useContext(FormContext)
  if (!form) throw new Error('the fields of a rulebook stand in its form')
  return form
}

/** “largestPixels” as “largest pixels”. */
export const wordsOf = (field: string): string =>
  field
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .toLowerCase()
    .replace(/\buvs\b/g, 'UVs')
    .replace(/\bid\b/, 'id')
