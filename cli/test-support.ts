import { vi } from 'vitest'
import { main } from './main.ts'

/** Runs a call and gives its exit code and what it printed on standard output and standard error. */
export async function call(...words: string[]) {
  const printed: string[] = []
  const complained: string[] = []
  const spies = [
    vi.spyOn(console, 'log').mockImplementation((text: string) => void printed.push(text)),
    vi.spyOn(console, 'error').mockImplementation((text: string) => void complained.push(text)),
    vi.spyOn(process.stderr, 'write').mockReturnValue(true),
  ]
  try {
    const code = await main(words)
    const text = printed.join('\n')
    return { code, text, json: () => JSON.parse(text), complained: complained.join('\n') }
  } finally {
    for (const spy of spies) spy.mockRestore()
  }
}
