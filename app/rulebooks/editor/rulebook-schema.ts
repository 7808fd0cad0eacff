import { rulebookJsonSchema } from '../../../core/game/load'
import { schemaPlace, type SchemaPlace } from '../../../core/game/schema-walk'

let made: SchemaPlace | null = null

/** What the schema of rulebooks says, made once. */
export function rulebookPlaces(): SchemaPlace {
  made ??= schemaPlace.parse(rulebookJsonSchema())
  return made
}
