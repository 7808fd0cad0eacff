import { writeFileSync } from 'node:fs'
import { rulebookJsonSchema } from '../core/game/load.ts'

const target = new URL('./rulebook.schema.json', import.meta.url)
writeFileSync(target, `${JSON.stringify(rulebookJsonSchema(), null, 2)}\n`)
