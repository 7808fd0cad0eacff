import * as Comlink from 'comlink'
import type { ZodType } from 'zod'

/**
 * Makes a call to a worker with somebody who hears how far it is, until the call is over and no longer: what the worker
 * said before may still lie in the page's queue then, and would bring back what has gone from the screen.
 * @param schema what a message has to be; one that is not ends in an error of the page
 * @param call gets what to hand to the worker
 * @example
 * await hearing(progressSchema, onProgress, (told) => packer.call((api) => api.pack(crate, told)))
 */
export async function hearing<M, R>(
  schema: ZodType<M>,
  hear: (message: M) => void,
  call: (told: ((message: unknown) => void) & Comlink.ProxyMarked) => Promise<R>,
): Promise<R> {
  let over = false
  const told = Comlink.proxy((message: unknown) => {
    if (!over) hear(schema.parse(message))
  })
  try {
    return await call(told)
  } finally {
    over = true
  }
}
