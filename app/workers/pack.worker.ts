import { packCrate } from '../../core/crate/pack-crate'
import { crateSchema } from '../../core/crate/schema'
import { tryRulebook } from '../../core/crate/rulebook-trial'
import { rulebookSchema } from '../../core/game/schema'
import { overlayOf } from '../../core/pack/overlay'
import { packDifference } from '../../core/pack/pack-difference'
import { contentsOfPack } from '../../core/pack/pack-files'
import { partOfPack } from '../../core/pack/part-of-pack'
import { readArchive, writeArchive } from '../../core/support/archive'
import { hashValue } from '../../core/support/hashing'
import { PlainError } from '../../core/support/plain-error'
import { browserResults } from '../storage/results'
import { getPackBytes, getPackFacts, putPack } from '../storage/packs'
import { getSource } from '../storage/sources'
import { otherPacksSchema, partWishSchema, type OverlayReport, type PackPart } from './pack-messages'
import type { Progress } from './messages'
import './browser-assets'
import { serve } from './serve'

let stopAsked = false

/** The files of the pack that is kept, with why they are there. */
async function keptPack(crateId: string) {
  const facts = await getPackFacts(crateId)
  const kept = await getPackBytes(crateId)
  if (!kept || !facts?.head) throw new PlainError('the kept pack is not whole', crateId, 'Pack again.')
  const whole = facts.files.flatMap(({ sort, askedBy, sha256, ...file }) =>
    sort && askedBy && sha256 !== undefined ? [{ ...file, sort, askedBy, sha256 }] : [],
  )
  return { contents: contentsOfPack({ bytes: kept, files: whole }, crateId), head: facts.head }
}

/** Packs a crate, and takes packs that are kept apart. */
const endpoint = {
  async pack(rawCrate: unknown, onProgress: (progress: Progress) => void): Promise<{ blocks: number }> {
    const crate = crateSchema.parse(rawCrate)
    stopAsked = false
    const before = await getPackFacts(crate.id)
    const { pack, head, blocks } = await packCrate(crate, {
      store: browserResults,
      bytesOf: getSource,
      shouldStop: () => stopAsked,
      onProgress,
    })
    const { bytes, sha256, files, leftOut } = pack
    // Packs of earlier versions do not say what their files were.
    const known = before?.files.flatMap(({ path, bytes: size, sha256: of }) =>
      of === undefined ? [] : [{ path, bytes: size, sha256: of }],
    )
    const changes = known && known.length === before?.files.length ? packDifference(known, files) : null
    const facts = { crateId: crate.id, sha256, files, head, leftOut, changes, blocks }
    await putPack({ ...facts, crateHash: hashValue(crate), packedAt: Date.now() }, bytes)
    return { blocks }
  },

  /** Which findings come and go with another rulebook. */
  async tryRulebook(rawCrate: unknown, rawRulebook: unknown, onProgress: (progress: Progress) => void) {
    stopAsked = false
    return tryRulebook(crateSchema.parse(rawCrate), rulebookSchema.parse(rawRulebook), {
      store: browserResults,
      bytesOf: getSource,
      shouldStop: () => stopAsked,
      onProgress,
    })
  },

  stop(): void {
    stopAsked = true
  },

  /** A pack of some items of the pack that is kept, or of what other packs do not have. */
  async part(crateId: string, rawRulebook: unknown, rawWish: unknown): Promise<PackPart> {
    const { items, over } = partWishSchema.parse(rawWish)
    const { contents, head } = await keptPack(crateId)
    const below = over.map(({ name, bytes }) => ({ name, files: readArchive(bytes, name) }))
    const rulebook = rulebookSchema.parse(rawRulebook)
    const made = partOfPack(contents, head, rulebook, { ...(items ? { items } : {}), over: below })
    return { bytes: made.bytes, files: made.files.length, leftOut: made.leftOut.length }
  },

  /** A pack for each item of the pack that is kept, called like the item, all in one archive. */
  async each(crateId: string, rawRulebook: unknown): Promise<PackPart> {
    const { contents, head } = await keptPack(crateId)
    const rulebook = rulebookSchema.parse(rawRulebook)
    const packs = head.items.map(({ name }) => ({
      path: `${name}.zip`,
      bytes: partOfPack(contents, { ...head, title: name }, rulebook, { items: [name] }).bytes,
    }))
    // They are compressed already.
    return { bytes: writeArchive(packs, 'zip-stored'), files: packs.length, leftOut: 0 }
  },

  /** Which of several packs wins each path where the kept one lies beside them under a name. */
  async overlay(crateId: string, fileName: string, rawRulebook: unknown, rawPacks: unknown): Promise<OverlayReport> {
    const kept = await getPackBytes(crateId)
    if (!kept) throw new PlainError('the kept pack is not whole', crateId, 'Pack again.')
    const packs = [...otherPacksSchema.parse(rawPacks), { name: fileName, bytes: kept }]
    return overlayOf(
      packs.map(({ name, bytes }) => ({ name, files: readArchive(bytes, name) })),
      rulebookSchema.parse(rawRulebook),
    )
  },
}

export type PackEndpoint = typeof endpoint
serve(endpoint)
