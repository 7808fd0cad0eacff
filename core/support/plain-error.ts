/**
 * An error whose message is meant for the modder: what happened, where, and what mends it.
 * Everything else that is thrown is a defect of ours.
 */
export class PlainError extends Error {
  override readonly name = 'PlainError'

  /**
   * @param what what happened, as the start of a sentence without a full stop
   * @param where the file, part or place it happened in
   * @param mend what the modder can do about it
   */
  constructor(
    readonly what: string,
    readonly where: string,
    readonly mend: string,
  ) {
    super(`${shortened(where)}: ${shortened(what)}. ${mend}`)
  }
}

const MOST_SIGNS = 300

/** What a file says of itself may be as long as the file; a sentence is read. */
const shortened = (text: string): string =>
  text.length <= MOST_SIGNS ? text : `${text.slice(0, MOST_SIGNS - 40)} … ${text.slice(-30)}`

/**
 * The sentence to show for anything that was thrown; unknown errors keep their own message.
 *
 * @example tell(plainMessage(error))
 */
export function plainMessage(error: unknown): string {
  if (error instanceof Error) return error.message
  return String(error)
}
