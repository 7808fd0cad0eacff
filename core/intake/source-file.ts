import { limits } from '../support/limits.ts'
import { PlainError } from '../support/plain-error.ts'

/** A file as it was brought: never changed. `path` uses forward slashes and may have folders. */
export interface SourceFile {
  path: string
  bytes: Uint8Array
  /** Nobody chose it: it lay beside what was chosen, and comes in only where that asks for it. */
  beside?: boolean
}

/**
 * A path without its folders, whichever slash they are written with.
 *
 * @example fileName('maps\\wood/oak.png') // 'oak.png'
 */
export const fileName = (path: string): string => path.split(/[\\/]/).pop() ?? path

/**
 * The ending of a path in lower case without its dot; empty where there is none.
 * @example fileEnding('maps/Oak.PNG') // 'png'
 */
export function fileEnding(path: string): string {
  const name = fileName(path)
  const dot = name.lastIndexOf('.')
  return dot < 0 ? '' : name.slice(dot + 1).toLowerCase()
}

/**
 * A file’s name without folders and ending.
 *
 * @example fileStem('maps/oak.v2.png') // 'oak.v2'
 */
export const fileStem = (path: string): string => fileName(path).replace(/\.[^.]*$/, '')

/**
 * Text of a file: UTF-8, or UTF-16 where a byte order mark says so.
 * @example const lines = sourceText(file).split('\n')
 */
export function sourceText(file: SourceFile): string {
  const [first, second] = file.bytes
  if (first === 0xff && second === 0xfe) return new TextDecoder('utf-16le').decode(file.bytes)
  if (first === 0xfe && second === 0xff) return new TextDecoder('utf-16be').decode(file.bytes)
  return new TextDecoder('utf-8').decode(file.bytes)
}

/**
 * A text file's bytes as UTF-8, transcoded where a byte order mark says it is UTF-16.
 * @example const words = scanWords(utf8Bytes(file))
 */
export function utf8Bytes(file: SourceFile): Uint8Array {
  const [first, second, third] = file.bytes
  if (first === 0xef && second === 0xbb && third === 0xbf) return file.bytes.subarray(3)
  const isUtf16 = (first === 0xff && second === 0xfe) || (first === 0xfe && second === 0xff)
  return isUtf16 ? new TextEncoder().encode(sourceText(file)) : file.bytes
}

/**
 * @throws PlainError when a file is empty or larger than intake takes
 * @example files.forEach(assertReadableSize)
 */
export function assertReadableSize(file: SourceFile): void {
  if (file.bytes.length === 0)
    throw new PlainError('the file is empty', fileName(file.path), 'Save it again from the program that made it.')
  if (file.bytes.length > limits.fileBytes) {
    const megabytes = Math.round(file.bytes.length / 1024 / 1024)
    throw new PlainError(
      `it has ${megabytes} MB; up to ${limits.fileBytes / 1024 / 1024} MB are read`,
      fileName(file.path),
      'Split the model or lower its density where it was made.',
    )
  }
}
