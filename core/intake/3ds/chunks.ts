import { limits } from '../../support/limits.ts'
import { ByteReader } from '../../support/byte-reader.ts'
import { PlainError } from '../../support/plain-error.ts'

/** Visits chunks of a 3DS file and counts them, so that a hostile file ends. */
export class ChunkWalker {
  private visited = 0

  constructor(private readonly file: string) {}

  open(bytes: Uint8Array): ByteReader {
    return new ByteReader(
      bytes,
      () => new PlainError('it is cut off, or a piece of it runs past its end', this.file, 'Export it again.'),
    )
  }

  /** Calls `visit` for each chunk in `reader`, with a reader of just that chunk's content. */
  each(reader: ByteReader, visit: (id: number, content: ByteReader) => void): void {
    while (reader.left >= 6) {
      if (++this.visited > limits.records)
        throw new PlainError('it has more than a million pieces', this.file, 'Export it again.')
      const id = reader.uint16()
      const length = reader.uint32()
      visit(id, reader.slice(length - 6))
    }
  }
}
