#!/usr/bin/env node
import { loadCommandLine } from './load-command-line.mjs'

const words = process.argv.slice(2)
const { entry, end } = await loadCommandLine(words[0] ?? '')
process.exitCode = await entry.main(words)
end()
