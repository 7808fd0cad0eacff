import { useRef, type ReactNode } from 'react'

interface FilePicker {
  /** Opens the browser's choice of files. */
  open: () => void
  /** Stands anywhere beside what opens it. */
  input: ReactNode
}

/**
 * Asks for files by whatever is pressed. The same file can be chosen again afterwards.
 * @param label says to a screen reader, and to a test, what is asked for
 * @param onFiles gets what was chosen, at least one
 *
 * @example
 * const { open, input } = useFilePicker('Crate file', '.zip', (files) => openFile(files[0]))
 */
export function useFilePicker(
  label: string,
  accept: string | undefined,
  onFiles: (files: File[]) => Promise<void>,
): FilePicker {
  const element = useRef<HTMLInputElement>(null)
  return {
    open: () => element.current?.click(),
    input: (
      <input
        ref={element}
        type="file"
        accept={accept}
        multiple
        className="hidden"
        aria-label={label}
        onChange={({ target }) => {
          const files = [...(target.files ?? [])]
          if (files.length === 0) return
          void onFiles(files).finally(() => {
            target.value = ''
          })
        }}
      />
    ),
  }
}
