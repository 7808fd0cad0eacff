import { loadCommandLine } from './load-command-line.mjs'

// Where a call of many items begins its workers.
const { entry, end } = await loadCommandLine('item-worker')
await entry.work()
end()
