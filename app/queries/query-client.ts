import { QueryCache, QueryClient } from '@tanstack/react-query'
import { tellError } from '../ui/notify'

const isStopped = (error: unknown): boolean => error instanceof Error && error.name === 'StoppedError'

/**
 * Derived things are asked for under keys that hold all they are made of: an answer never grows old, and goes a minute
 * after the last that showed it. Nothing of it needs a network.
 */
export const createQueryClient = (): QueryClient =>
  new QueryClient({
    queryCache: new QueryCache({
      onError: (error, { meta }) => {
        if (!isStopped(error) && meta?.['silent'] !== true) tellError(error)
      },
    }),
    defaultOptions: {
      queries: {
        staleTime: Infinity,
        gcTime: 60_000,
        retry: false,
        networkMode: 'always',
        refetchOnWindowFocus: false,
        refetchOnReconnect: false,
        // Answers are typed arrays of millions of numbers: they are not compared.
        structuralSharing: false,
      },
    },
  })
