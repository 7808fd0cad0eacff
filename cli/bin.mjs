#!/usr/bin/env node
// Runs the TypeScript sources as they are, so that a checkout needs no build step after `npm ci`.
import { register } from 'tsx/esm/api'

register()
await import('./node-assets.ts')
const { main } = await import('./main.ts')
process.exitCode = await main(process.argv.slice(2))
