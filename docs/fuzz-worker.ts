// Reads mutants in a process of its own, so that one that hangs or swells is ended and told.
import '../cli/node-assets'
import { z } from 'zod'
import { fuzzedReaders, seedsOf } from '../core/test-support/fuzz/readers'
import { mutantOf, tryMutant } from '../core/test-support/fuzz/try-mutant'

const orderSchema = z.object({ reader: z.string(), from: z.number(), to: z.number() })

// What codecs print of a broken picture is said in the sentence too.
console.error = () => undefined
console.warn = () => undefined

process.on('message', (message) => {
  const { reader: name, from, to } = orderSchema.parse(message)
  void (async () => {
    const reader = fuzzedReaders.find((each) => each.name === name)
    if (!reader) throw new Error(`there is no reader “${name}”`)
    const seeds = await seedsOf(reader, true)
    for (let number = from; number < to; number++) {
      const files = mutantOf(seeds, number)
      process.send?.({ number, begins: true })
      const before = process.resourceUsage().maxRSS
      const verdict = await tryMutant(reader, files)
      const after = process.resourceUsage().maxRSS
      process.send?.({
        number,
        begins: false,
        path: files[0].path,
        grownBytes: (after - before) * 1024,
        bytes: after * 1024,
        ...verdict,
      })
      // Messages go out between two mutants.
      await new Promise((resolve) => setImmediate(resolve))
    }
    process.exit(0)
  })()
})
