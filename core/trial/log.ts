/** What the stand-in loader says: it refuses, it complains and goes on, or it only tells. */
export type LogLevel = 'refused' | 'complaint' | 'told'

export interface LogLine {
  level: LogLevel
  code: string
  message: string
  /** The file of the pack it is about. */
  file: string
}

/** Collects lines; one refusal and the pack does not load. */
export class TrialLog {
  readonly lines: LogLine[] = []

  refuse(code: string, file: string, message: string): void {
    this.lines.push({ level: 'refused', code, file, message })
  }

  complain(code: string, file: string, message: string): void {
    this.lines.push({ level: 'complaint', code, file, message })
  }

  tell(code: string, file: string, message: string): void {
    this.lines.push({ level: 'told', code, file, message })
  }

  get refused(): boolean {
    return this.lines.some((line) => line.level === 'refused')
  }
}
