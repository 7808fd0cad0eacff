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
    super(`${where}: ${what}. ${mend}`)
  }
}

/** The sentence to show for anything that was thrown; unknown errors keep their own message. */
export function plainMessage(error: unknown): string {
  if (error instanceof Error) return error.message
  return String(error)
}
