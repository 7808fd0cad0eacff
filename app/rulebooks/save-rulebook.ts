import { download } from '../ui/download'
import { tellError } from '../ui/notify'
import { rulebookFile } from '../workers/clients'
import type { GameChoice } from '../workers/source-messages'

/** Hands a rulebook to the modder as one file: JSON, or a ZIP where its game has something in stock. */
export async function saveRulebook(choice: GameChoice, name: string): Promise<void> {
  try {
    const { bytes, ending } = await rulebookFile(choice)
    download(bytes, `${name}.${ending}`, ending === 'json' ? 'application/json' : 'application/zip')
  } catch (error) {
    tellError(error)
  }
}
