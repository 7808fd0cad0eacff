/** What the stand-in loader says: it refuses, it complains and goes on, or it only tells. */
export type LogLevel = 'refused' | 'complaint' | 'told'

export interface LogLine {
  level: LogLevel
  code: string
  message: string
  /** The file of the pack it is about. */
  file: string
  /** The item that was being loaded; null where it is about the pack. */
  item: string | null
}

/** Collects lines; one refusal and the pack does not load. */
export class TrialLog {
  readonly lines: LogLine[] = []
  private item: string | null = null

  /** Says which item is loaded from now on; null for the pack as a whole. */
  about(item: string | null): void {
    this.item = item
  }

  refuse(code: string, file: string, message: string): void {
    this.say('refused', code, file, message)
  }

  complain(code: string, file: string, message: string): void {
    this.say('complaint', code, file, message)
  }

  tell(code: string, file: string, message: string): void {
    this.say('told', code, file, message)
  }

  get refused(): boolean {
    return this.lines.some((line) => line.level === 'refused')
  }

  private say(level: LogLevel, code: string, file: string, message: string): void {
    this.lines.push({ level, code, file, message, item: this.item })
  }
}
