import { nowhere, type Finding, type Severity } from '../rules/rule.ts'

/** What is wrong with a file of a pack. `limit` is what the game takes. */
export interface FileFault {
  rule: string
  severity: Severity
  title: string
  /** The file's path in the pack. */
  where: string
  message: string
  value?: string
  limit: string
  why: string
}

/**
 * A finding about a file: nothing of a worklist mends it.
 * @example findings.push(fileFinding({ ...fault, where: path }))
 */
export const fileFinding = ({ value = 'other', ...fault }: FileFault): Finding => ({
  ...fault,
  value,
  stage: 'pack',
  place: nowhere,
  mend: null,
})
