import type { Config } from '@react-router/dev/config'

// Everything that a page shows is in the browser: the server hands out files, and without it the page is the same.
export default { ssr: false } satisfies Config
