import { isDeepStrictEqual } from 'node:util'
import { readFileSync, readdirSync } from 'node:fs'
import { join, relative, resolve } from 'node:path'
import ts from 'typescript'
import { builtInRulebooks } from '../core/game/load.ts'

/**
 * Checks the types of core/ and cli/ as tsconfig.core.json has them, and with them the examples in docstrings: each fits
 * what it calls, and where it says a value behind `//`, that is what comes out. Names that an example does not explain
 * stand for whatever its reader has at hand; `rulebook` is that of the first built-in game. `npm run typecheck` runs it.
 */

interface Example {
  file: string
  line: number
  code: string
  /** What stands behind `//`, where it is a value and no words. */
  value: string | null
}

const root = resolve(import.meta.dirname, '..')
const sources = readdirSync(join(root, 'core'), { recursive: true })
  .map((path) => join(root, 'core', String(path)))
  .filter((path) => path.endsWith('.ts') && !path.endsWith('.test.ts') && !path.includes('test-support'))
const texts = new Map(sources.map((path) => [path, readFileSync(path, 'utf8')]))

const VALUE = /^(-?[\d.]|'|"|\[|\{|true$|false$|null$|undefined$)/

function examplesOf(file: string, text: string): Example[] {
  const found: Example[] = []
  const lines = text.split('\n')
  for (let at = 0; at < lines.length; at++) {
    const begins = /^ \* @example (.*)$/.exec(lines[at])
    if (!begins) continue
    const line = at + 1
    let code = begins[1]
    // Further lines of an example are indented.
    while (/^ \* {2,}\S/.test(lines[at + 1] ?? '')) code += `\n${lines[++at].slice(3)}`
    const behind = code.lastIndexOf(' // ')
    const said = behind < 0 ? '' : code.slice(behind + 4)
    found.push({ file, line, code, value: VALUE.test(said) ? said : null })
  }
  return found
}

const examples = sources.flatMap((file) => examplesOf(file, texts.get(file) ?? ''))
const faults: string[] = []
const fault = ({ file, line, code }: Example, message: string): void =>
  void faults.push(`${relative(root, file)}:${line}: ${message}\n    ${code}`)

/** What an example leaves open: names its reader has at hand, what they are of, and what is not used further. */
const LEFT_OPEN = new Set([2304, 2448, 2454, 2552, 2584, 6133, 6192, 6196, 6198, 7006, 7031, 18004])

/** Each example as a function at the end of its file, and where it begins there. */
function checkTypes(): void {
  const begins = new Map<string, { at: number; example: Example }[]>()
  const written = new Map(texts)
  for (const example of examples) {
    // Of what is left out nothing can be told.
    if (example.code.includes('…')) continue
    let text = written.get(example.file) ?? ''
    text += `\nexport async function example${example.line}() {\n`
    begins.set(example.file, [...(begins.get(example.file) ?? []), { at: text.length, example }])
    written.set(example.file, `${text}${example.code}\n}\n`)
  }
  const config = ts.getParsedCommandLineOfConfigFile(
    join(root, 'tsconfig.core.json'),
    {},
    {
      ...ts.sys,
      onUnRecoverableConfigFileDiagnostic: () => undefined,
    },
  )
  const options = { ...config?.options, noEmit: true }
  const host = ts.createCompilerHost(options)
  const readFile = host.readFile.bind(host)
  host.readFile = (path) => written.get(resolve(path)) ?? readFile(path)
  const getSourceFile = host.getSourceFile.bind(host)
  host.getSourceFile = (path, ...rest) => {
    const text = written.get(resolve(path))
    return text === undefined ? getSourceFile(path, ...rest) : ts.createSourceFile(path, text, rest[0])
  }
  const program = ts.createProgram(config?.fileNames ?? [], options, host)
  for (const diagnostic of ts.getPreEmitDiagnostics(program)) {
    const message = ts.flattenDiagnosticMessageText(diagnostic.messageText, ' ')
    const [file, start] = [diagnostic.file?.fileName ?? '', diagnostic.start ?? 0]
    const place = begins.get(resolve(file))?.findLast(({ at }) => at <= start)
    if (!place) {
      const line = diagnostic.file?.getLineAndCharacterOfPosition(start).line ?? 0
      faults.push(`${relative(root, file)}:${line + 1}: ${message}`)
    } else if (!LEFT_OPEN.has(diagnostic.code)) fault(place.example, message)
  }
}

/** Where what core/ exports is found, for examples that use more than their own file. */
function exporters(): Map<string, string> {
  const found = new Map<string, string>()
  for (const [file, text] of texts)
    for (const [, name] of text.matchAll(/^export (?:async )?(?:function|const) (\w+)/gm)) found.set(name, file)
  return found
}

async function checkValues(): Promise<number> {
  const from = exporters()
  const [rulebook] = builtInRulebooks()
  let checked = 0
  for (const example of examples) {
    if (example.value === null) continue
    const expression = example.code.slice(0, example.code.lastIndexOf(' // '))
    const own = (await import(example.file)) as Record<string, unknown>
    const known: Record<string, unknown> = { rulebook, ...own }
    for (const [name] of expression.matchAll(/\b[a-zA-Z]\w*\b/g)) {
      const file = from.get(name)
      if (!(name in known) && file !== undefined) known[name] = ((await import(file)) as Record<string, unknown>)[name]
    }
    try {
      const run = (code: string): unknown =>
        (new Function(...Object.keys(known), `return (async () => (${code}))()`) as (...of: unknown[]) => unknown)(
          ...Object.values(known),
        )
      const [is, said] = [await run(expression), await run(example.value)]
      checked++
      if (!isDeepStrictEqual(rounded(is), rounded(said))) fault(example, `is ${JSON.stringify(is)}`)
    } catch (error) {
      // It goes on from what its reader has at hand.
      if (error instanceof ReferenceError) continue
      fault(example, `says a value, but does not run: ${String(error)}`)
    }
  }
  return checked
}

/** Numbers to six digits; −0 is 0. */
function rounded(value: unknown): unknown {
  if (typeof value === 'number') return Number(value.toPrecision(6)) + 0
  if (Array.isArray(value)) return value.map(rounded)
  if (value !== null && typeof value === 'object' && Object.getPrototypeOf(value) === Object.prototype)
    return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, rounded(each)]))
  return value
}

checkTypes()
const checked = await checkValues()
if (faults.length > 0) {
  console.error(faults.join('\n'))
  process.exitCode = 1
} else console.log(`${examples.length} examples fit their types, ${checked} of them say what comes out.`)
