import { unzipSync } from 'fflate'
import { beforeAll, describe, expect, it } from 'vitest'
import { z } from 'zod'
import { kindOf } from '../game/load.ts'
import { setMaterialTag } from '../game/material-tag.ts'
import type { Rulebook } from '../game/schema.ts'
import { packItems } from '../pack/pack-crate.ts'
import { readRecord, writeRecord } from '../pack/records/index.ts'
import { writeArchive } from '../support/archive.ts'
import { sha256Hex } from '../support/hashing.ts'
import { ball, documentOf } from '../test-support/meshes.ts'
import { mirroredGames } from '../test-support/mirrored-games.ts'
import { judgePack } from '../test-support/spoiled/judge-pack.ts'
import { runStep } from '../test-support/step-runs.ts'

const game = mirroredGames.find(({ files }) => files.mesh.writer === 'dae')
if (!game) throw new Error('one of the mirrored games takes COLLADA')
interface MadePack {
  files: Record<string, Uint8Array>
  /** The path of its mesh file. */
  mesh: string
}
let still: MadePack
let bending: MadePack

beforeAll(async () => {
  still = await madeOf('prop')
  bending = await madeOf('bender')
})

/** A ball and a knob on it; as a bender the knob stays stiff and the ball bends with it. */
async function madeOf(kindId: string): Promise<MadePack> {
  if (!game) throw new Error('there is a game')
  const kind = kindOf(game, kindId)
  const plain = documentOf({ ball: ball(1, 10), knob: ball(0.4, 6, [0, 2, 0]) })
  for (const material of plain.getRoot().listMaterials())
    setMaterialTag(plain, material, { base: material.getName(), surface: 'timber', flags: [] }, game)
  const bones = { from: 'parts', bones: ['knob'], skeleton: '', bent: ['ball'] }
  const held = kind.bones ? (await runStep('make-bones', plain, bones, { rulebook: game })).after : plain
  const painted = (await runStep('plain-colours', held, {}, { rulebook: game })).after
  const ready = (await runStep('even-normals', painted, {}, { rulebook: game })).after
  const named = (await runStep('clean-names', ready, {}, { rulebook: game })).after
  const document = (await runStep('tag-materials', named, {}, { rulebook: game })).after
  const { bytes } = await packItems([{ name: 'ball', kind, document }], game, 'ball')
  const files = unzipSync(bytes)
  return { files, mesh: Object.keys(files).find((path) => path.endsWith('.dae')) ?? '' }
}

const manifestSchema = z.looseObject({
  files: z.array(z.object({ path: z.string(), bytes: z.number(), sha256: z.string().optional() })),
})

/** The pack with another text in its mesh file, listed as it is. */
function packWith({ files, mesh }: MadePack, change: (text: string) => string): Uint8Array {
  const text = new TextDecoder().decode(files[mesh])
  const changed = change(text)
  const contents = { ...files, [mesh]: new TextEncoder().encode(changed) }
  if (!game) throw new Error('there is a game')
  const { path } = game.files.manifest
  const manifest = manifestSchema.parse(readRecord('manifest', files[path], path, game))
  for (const file of manifest.files) {
    file.bytes = contents[file.path].length
    if (file.sha256 !== undefined) file.sha256 = sha256Hex(contents[file.path])
  }
  contents[path] = writeRecord('manifest', manifest, game)
  return writeArchive(
    Object.entries(contents).map(([each, bytes]) => ({ path: each, bytes })),
    'zip-stored',
    false,
  )
}

type Spoiled = [string, 'refuses' | 'complains' | 'takes', (text: string) => string]

const spoiled: Spoiled[] = [
  ['nothing wrong', 'takes', (text) => text],
  ['another unit', 'refuses', (text) => text.replace(/meter="[^"]*"/, 'meter="0.01"')],
  ['no unit', 'refuses', (text) => text.replace(/<unit [^>]*>/, '')],
  ['another way up', 'refuses', (text) => text.replace('Z_UP', 'Y_UP')],
  ['faces of several corners', 'refuses', (text) => text.replaceAll('triangles', 'polygons')],
  ['a node placed by a scale', 'refuses', (text) => text.replace('</matrix>', '</matrix><scale>2 2 2</scale>')],
  ['a node placed twice', 'refuses', (text) => text.replace(/(<matrix [^]*?<\/matrix>)/, '$1$1')],
  ['a matrix of fifteen numbers', 'refuses', (text) => text.replace(/(<matrix [^>]*>)1 /, '$1')],
  ['a corner that is not there', 'refuses', (text) => text.replace(/<p>\d+ \d+/, '<p>90000 90000')],
  ['a triangle that is not whole', 'refuses', (text) => text.replace(/<p>\d+ \d+ /, '<p>')],
  ['a place that is no number', 'refuses', (text) => text.replace(/(<float_array [^>]*>)\S+/, '$1here')],
  ['numbers that are not there', 'refuses', (text) => text.replace(/source="#[^"]*-places"/, 'source="#gone"')],
  ['a scene that is not there', 'refuses', (text) => text.replace('url="#scene"', 'url="#elsewhere"')],
  [
    'a geometry that is not there',
    'refuses',
    (text) => text.replace(/instance_geometry url="[^"]*"/, 'instance_geometry url="#gone"'),
  ],
  ['two things of one id', 'refuses', (text) => text.replace('<visual_scene id="scene"', '<visual_scene id="ball"')],
  ['a camera', 'refuses', (text) => text.replace('</matrix>', '</matrix><instance_camera url="#eye"/>')],
  [
    'a name that the game does not take',
    'refuses',
    (text) => text.replace(/(<node [^>]*)name="knob"/, '$1name="The knob"'),
  ],
  [
    'a node turned over',
    'complains',
    (text) => text.replace(/(<node [^>]*name="knob"[^]*?<matrix [^>]*>)1 0 0/, '$1-1 0 0'),
  ],
  ['no XML', 'refuses', (text) => text.replace('</asset>', '')],
  ['XML of something else', 'refuses', (text) => text.replaceAll('COLLADA', 'SCENE')],
]

const spoiledBones: Spoiled[] = [
  ['bones of a part', 'takes', (text) => text],
  ['a bone that is not there', 'refuses', (text) => text.replace(/(<Name_array [^>]*>)\S+(?=<)/, '$1elsewhere')],
  [
    'a bone without its rest',
    'refuses',
    (text) => text.replace(/(<float_array [^>]*id="[^"]*binds[^"]*"[^>]*>)1 /, '$1'),
  ],
  ['a corner held by a bone that is not there', 'refuses', (text) => text.replace(/<v>0 /, '<v>7 ')],
  ['a weight that is not there', 'refuses', (text) => text.replace(/<v>0 0/, '<v>0 90000')],
  ['corners that say more bones than they have', 'refuses', (text) => text.replace('<vcount>1', '<vcount>2')],
  [
    'weights of a half',
    'complains',
    (text) => text.replace(/(<float_array [^>]*id="[^"]*weights[^"]*"[^>]*>)1 /, '$10.5 '),
  ],
  ['shapes to morph to', 'refuses', (text) => text.replace(/<skin /, '<morph ').replace('</skin>', '</morph>')],
]

describe('a pack with a COLLADA mesh', () => {
  const judge = async (made: MadePack, says: string, change: (text: string) => string) => {
    const text = new TextDecoder().decode(made.files[made.mesh])
    if (says !== 'takes') expect(change(text)).not.toBe(text)
    const { check, loader, told } = await judgePack(packWith(made, change), game as Rulebook)
    expect({ check, loader }, told.join('\n')).toEqual({ check: says, loader: says })
  }
  it.each(spoiled)('with %s: the game %s it, and check says so', (_, says, change) => judge(still, says, change))
  it.each(spoiledBones)('with %s: the game %s it, and check says so', (_, says, change) => judge(bending, says, change))
})
