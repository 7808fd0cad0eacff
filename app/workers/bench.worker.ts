import './browser-assets'
import { entries } from './bench/entries'
import { maps } from './bench/maps'
import { runs } from './bench/runs'
import { askToStop } from './bench/session'
import { solids } from './bench/solids'
import { states } from './bench/states'
import { serve } from './serve'

/** What the page may ask of the bench, by subject. */
const endpoint = { ...runs, ...entries, ...states, ...maps, ...solids, stop: askToStop }

export type BenchEndpoint = typeof endpoint
serve(endpoint)
