import { lazy, memo, Suspense, useSyncExternalStore, type ReactNode } from 'react'
import { ErrorBoundary } from 'react-error-boundary'
import type { YardProps } from './yard'

const Yard = lazy(() => import('./yard'))

const never = (): (() => void) => () => undefined

/** The yard where it can be drawn: loaded late, never on the server, with a fall of its own when the card gives up. */
export const YardFrame = memo(function YardFrame(props: YardProps) {
  const inBrowser = useSyncExternalStore(
    never,
    () => true,
    () => false,
  )
  if (!inBrowser) return null
  return (
    <ErrorBoundary
      fallback={
        <YardMessage>
          The 3D picture could not be drawn. Everything else works; try another browser to see it.
        </YardMessage>
      }
    >
      <Suspense fallback={<YardMessage>Opening the yard…</YardMessage>}>
        <Yard {...props} />
      </Suspense>
    </ErrorBoundary>
  )
})

export function YardMessage({ children }: { children: ReactNode }) {
  return <div className="absolute inset-0 grid place-items-center p-8 text-center text-ink-2">{children}</div>
}
