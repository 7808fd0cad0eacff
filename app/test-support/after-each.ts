import { cleanup } from '@testing-library/react'
import { afterEach } from 'vitest'

// What one test shows is gone before the next.
afterEach(cleanup)
