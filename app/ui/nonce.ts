import { createContext, useContext } from 'react'

/** The nonce that the content security policy of this page asks of inline scripts; only known on the server. */
export const NonceContext = createContext<string | undefined>(undefined)
export const useNonce = (): string | undefined => useContext(NonceContext)
