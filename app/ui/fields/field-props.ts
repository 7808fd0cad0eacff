/** What every field has: a value that is shown, and somebody to tell when another counts. */
export interface FieldProps<T> {
  id?: string
  /** What it is, where no label points to it. */
  label?: string
  className?: string
  value: T
  onChange: (value: T) => void
}
