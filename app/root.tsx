import { QueryClientProvider } from '@tanstack/react-query'
import { useEffect, useState, type ReactNode } from 'react'
import { isRouteErrorResponse, Link, Links, Meta, Outlet, Scripts, ScrollRestoration } from 'react-router'
import { Toaster } from 'sonner'
import type { Route } from './+types/root'
import { createQueryClient } from './queries/query-client'
import { keepForOffline } from './offline/updates'
import './ui/theme.css'

export const meta: Route.MetaFunction = () => [
  { title: 'Gentle Crate' },
  { name: 'description', content: 'Turns custom meshes and textures into exactly what one game’s loader accepts.' },
]

export const links: Route.LinksFunction = () => [
  { rel: 'icon', href: '/crate.svg', type: 'image/svg+xml' },
  { rel: 'manifest', href: '/crate.webmanifest' },
]

export function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <Meta />
        <Links />
      </head>
      <body>
        {children}
        <ScrollRestoration />
        <Scripts />
      </body>
    </html>
  )
}

export default function App() {
  const [queries] = useState(createQueryClient)
  useEffect(() => void keepForOffline(), [])
  return (
    <QueryClientProvider client={queries}>
      <Outlet />
      <Toaster position="bottom-right" toastOptions={{ className: 'toast' }} />
    </QueryClientProvider>
  )
}

export function HydrateFallback() {
  return <p className="p-6 text-ink-2">Opening…</p>
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  const message = isRouteErrorResponse(error)
    ? error.status === 404
      ? 'There is nothing at this address.'
      : error.statusText || String(error.data)
    : error instanceof Error
      ? error.message
      : 'Something went wrong.'
  return (
    <main className="mx-auto max-w-xl p-10">
      <h1 className="text-2xl">This did not work</h1>
      <p className="my-4">{message}</p>
      <p>
        What was kept is still kept.{' '}
        <Link className="link" to="/">
          Back to the shelf
        </Link>
      </p>
    </main>
  )
}
