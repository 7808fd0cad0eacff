import hollinKeep from './hollin-keep/rulebook.json' with { type: 'json' }
import pegboardParish from './pegboard-parish/rulebook.json' with { type: 'json' }
import tarnAndTiller from './tarn-and-tiller/rulebook.json' with { type: 'json' }

/** The rulebooks that ship with the program, as unparsed data. Adding a game adds a folder here and a line. */
export const builtInData: readonly unknown[] = [tarnAndTiller, hollinKeep, pegboardParish]
