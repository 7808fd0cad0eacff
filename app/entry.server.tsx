import { PassThrough } from 'node:stream'
import { createReadableStreamFromReadable } from '@react-router/node'
import { isbot } from 'isbot'
import { renderToPipeableStream } from 'react-dom/server'
import { ServerRouter, type AppLoadContext, type EntryContext } from 'react-router'
import { NonceContext } from './ui/nonce'

const TIME_LIMIT_MILLISECONDS = 5_000

/** Renders the first page; inline scripts carry the request's nonce. */
export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  context: EntryContext,
  loadContext: AppLoadContext,
) {
  const { nonce } = loadContext as { nonce?: string }
  return new Promise<Response>((resolve, reject) => {
    let shellRendered = false
    const whenReady = isbot(request.headers.get('user-agent') ?? '') ? 'onAllReady' : 'onShellReady'
    const { pipe, abort } = renderToPipeableStream(
      <NonceContext.Provider value={nonce}>
        <ServerRouter context={context} url={request.url} nonce={nonce} />
      </NonceContext.Provider>,
      {
        nonce,
        [whenReady]() {
          shellRendered = true
          const body = new PassThrough()
          headers.set('Content-Type', 'text/html')
          resolve(new Response(createReadableStreamFromReadable(body), { headers, status }))
          pipe(body)
        },
        onShellError: reject,
        onError(error: unknown) {
          if (shellRendered) console.error(error)
        },
      },
    )
    setTimeout(abort, TIME_LIMIT_MILLISECONDS)
  })
}
