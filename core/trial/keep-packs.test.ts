import { describe, expect, it } from 'vitest'
import { rulebookById } from '../game/load.ts'
import {
  type KeepSpoiler,
  loose,
  inEntry,
  ofMaterial,
  picture,
  nodesOf,
  boxes,
  changedPicture,
  renameMaterial,
} from '../test-support/spoiled/keep-changes.ts'
import {
  assembleKeep,
  keepPack,
  BAND,
  ENTRY,
  LOOK,
  MESH,
  OAK,
  SLOT,
  changeText,
  keepPicture,
  moveFile,
} from '../test-support/spoiled/keep-pack.ts'
import { judgePack } from '../test-support/spoiled/judge-pack.ts'

const rulebook = rulebookById('hollin-keep')

const places: KeepSpoiler[] = [
  { what: 'a slot that is not listed', says: 'refuses', spoil: inEntry((entry) => (entry['slot'] = 'k-0ff')) },
  { what: 'no slot', says: 'refuses', spoil: inEntry((entry) => delete entry['slot']) },
  { what: 'a slot of another kind', says: 'refuses', spoil: inEntry((entry) => (entry['slot'] = 'k-101')) },
  { what: 'a slot in capitals', says: 'refuses', spoil: inEntry((entry) => (entry['slot'] = 'K-00B')) },
  {
    what: 'an entry in another folder',
    says: 'refuses',
    spoil: (pack) => moveFile(pack, ENTRY, `more/${SLOT}.json`),
  },
  {
    what: 'an entry of another slot',
    says: 'refuses',
    spoil: (pack) => moveFile(pack, ENTRY, 'entries/k-00a.json'),
  },
  {
    what: 'two entries for one item',
    says: 'refuses',
    spoil: (pack) => void pack.texts.set('entries/k-00c.json', pack.texts.get(ENTRY) ?? ''),
  },
  { what: 'an entry that is no JSON', says: 'refuses', spoil: (pack) => changeText(pack, ENTRY, /\{/, '') },
  { what: 'an unknown kind', says: 'refuses', spoil: inEntry((entry) => (entry['kind'] = 'prop')) },
  { what: 'another category', says: 'refuses', spoil: inEntry((entry) => (entry['category'] = 'hangings')) },
  { what: 'a name with a capital', says: 'refuses', spoil: inEntry((entry) => (entry['item'] = 'Crate')) },
  { what: 'a name of 25 letters', says: 'refuses', spoil: inEntry((entry) => (entry['item'] = 'c'.repeat(25))) },
  { what: 'no looks', says: 'refuses', spoil: inEntry((entry) => (entry['looks'] = [])) },
  { what: 'a mesh that is not there', says: 'refuses', spoil: (pack) => void pack.texts.delete(MESH) },
  { what: 'a look that is not there', says: 'refuses', spoil: (pack) => void pack.texts.delete(LOOK) },
]

const meshes: KeepSpoiler[] = [
  { what: '21 sections', says: 'refuses', spoil: (pack) => boxes(pack, 21, true) },
  { what: '20 sections', says: 'takes', spoil: (pack) => boxes(pack, 20, true) },
  { what: 'a section of 1,008 corners', says: 'refuses', spoil: (pack) => boxes(pack, 42, false) },
  { what: 'a section of 984 corners', says: 'takes', spoil: (pack) => boxes(pack, 41, false) },
  {
    what: 'a corner that is not there',
    says: 'refuses',
    spoil: (pack) => changeText(pack, MESH, /f (\d+)\/(\d+)\/(\d+)/, 'f 900/$2/$3'),
  },
  { what: 'a face of four corners', says: 'refuses', spoil: (pack) => changeText(pack, MESH, /(f .*)/, '$1 1/1/1') },
  { what: 'a place that is no number', says: 'refuses', spoil: (pack) => changeText(pack, MESH, /v -10/, 'v nan') },
  { what: 'no UVs', says: 'refuses', spoil: (pack) => changeText(pack, MESH, /(\d+)\/\d+\/(\d+)/g, '$1//$2') },
  { what: 'no normals', says: 'complains', spoil: (pack) => changeText(pack, MESH, /\/(\d+)(?= |$)/gm, '') },
  {
    what: 'faces turned inward',
    says: 'complains',
    spoil: (pack) => changeText(pack, MESH, /f (\S+) (\S+) (\S+)/g, 'f $1 $3 $2'),
  },
  {
    what: 'a material that the look says nothing of',
    says: 'refuses',
    spoil: (pack) => changeText(pack, MESH, `usemtl ${BAND}`, 'usemtl skins/k-00b_lead_s'),
  },
  {
    what: 'faces without a material',
    says: 'refuses',
    spoil: (pack) => changeText(pack, MESH, `usemtl ${OAK}\n`, ''),
  },
  {
    what: 'two parts of one name',
    says: 'refuses',
    spoil: inEntry((entry) => (nodesOf(entry)[2]['name'] = 'box')),
  },
  {
    what: 'a part whose name has a space',
    says: 'refuses',
    spoil: inEntry((entry) => (nodesOf(entry)[1]['name'] = 'the box')),
  },
  {
    what: 'an object that the entry does not know',
    says: 'refuses',
    spoil: (pack) => changeText(pack, MESH, 'o band', 'o hoop'),
  },
  {
    what: 'a root that is turned',
    says: 'refuses',
    spoil: inEntry((entry) => (nodesOf(entry)[0]['rotation'] = [0, 0, Math.SQRT1_2, Math.SQRT1_2])),
  },
  {
    what: 'a thing of a mile',
    says: 'complains',
    spoil: (pack) => changeText(pack, MESH, /^v (\S+) (\S+) 20$/gm, 'v $1 $2 63360'),
  },
]

const pictures: KeepSpoiler[] = [
  { what: 'a picture that is not there', says: 'refuses', spoil: (pack) => void pack.pictures.delete(`${OAK}.tga`) },
  { what: 'a picture of 512', says: 'refuses', spoil: picture(`${OAK}.tga`, keepPicture(512, 512)) },
  { what: 'a picture of 256', says: 'takes', spoil: picture(`${OAK}.tga`, keepPicture(256, 256)) },
  { what: 'a picture of 48', says: 'refuses', spoil: picture(`${OAK}.tga`, keepPicture(48, 64)) },
  { what: 'a picture of 2', says: 'refuses', spoil: picture(`${OAK}.tga`, keepPicture(2, 2)) },
  { what: 'a picture of 16 to 1', says: 'refuses', spoil: picture(`${OAK}.tga`, keepPicture(128, 8)) },
  { what: 'a picture of 32 bits', says: 'takes', spoil: picture(`${OAK}.tga`, keepPicture(64, 64, 32)) },
  {
    what: 'a picture with its first row on top',
    says: 'refuses',
    spoil: picture(
      `${OAK}.tga`,
      changedPicture(64, 64, (bytes) => (bytes[17] = 32)),
    ),
  },
  {
    what: 'a picture that ends half-way',
    says: 'refuses',
    spoil: picture(`${OAK}.tga`, keepPicture(64, 64).slice(0, 5000)),
  },
  {
    what: 'a picture with a table of colours',
    says: 'refuses',
    spoil: picture(
      `${OAK}.tga`,
      changedPicture(64, 64, (bytes) => bytes.set([1, 1], 1)),
    ),
  },
  {
    what: 'another role',
    says: 'refuses',
    spoil: ofMaterial(OAK, (line) => (line['maps'] = { colour: `${OAK}.tga`, normal: `${OAK}.tga` })),
  },
  { what: 'no map', says: 'refuses', spoil: ofMaterial(OAK, (line) => (line['maps'] = {})) },
  {
    what: 'a map whose name ends otherwise',
    says: 'refuses',
    spoil: (pack) => {
      const to = `skins/${SLOT}_oak_x`
      moveFile(pack, `${OAK}.tga`, `${to}.tga`)
      changeText(pack, LOOK, `${OAK}.tga`, `${to}.tga`)
      renameMaterial(pack, OAK, to)
    },
  },
  {
    what: 'a map with a capital',
    says: 'refuses',
    spoil: (pack) => {
      const to = `skins/${SLOT}_Oak_s`
      moveFile(pack, `${OAK}.tga`, `${to}.tga`)
      changeText(pack, LOOK, `${OAK}.tga`, `${to}.tga`)
      renameMaterial(pack, OAK, to)
    },
  },
]

const materials: KeepSpoiler[] = [
  {
    what: 'a material named by its file alone',
    says: 'refuses',
    spoil: (pack) => renameMaterial(pack, OAK, `${SLOT}_oak_s`),
  },
  {
    what: 'a material named by a path of one disk',
    says: 'refuses',
    spoil: (pack) => renameMaterial(pack, OAK, `C:/hollin/${OAK}`),
  },
  {
    what: 'a material named with its ending',
    says: 'refuses',
    spoil: (pack) => renameMaterial(pack, OAK, `${OAK}.tga`),
  },
  {
    what: 'a material with a path of 49 signs',
    says: 'refuses',
    spoil: (pack) => {
      const to = `${OAK.slice(0, -2)}${'y'.repeat(49 - OAK.length)}_s`
      moveFile(pack, `${OAK}.tga`, `${to}.tga`)
      changeText(pack, LOOK, `${OAK}.tga`, `${to}.tga`)
      renameMaterial(pack, OAK, to)
    },
  },
  { what: 'an unknown surface', says: 'refuses', spoil: ofMaterial(OAK, (line) => (line['surface'] = 'timber')) },
  { what: 'no surface', says: 'refuses', spoil: ofMaterial(OAK, (line) => delete line['surface']) },
  { what: 'an unknown flag', says: 'refuses', spoil: ofMaterial(OAK, (line) => (line['flags'] = ['veil'])) },
  { what: 'a known flag', says: 'takes', spoil: ofMaterial(OAK, (line) => (line['flags'] = ['bright'])) },
  { what: 'an unknown shading', says: 'refuses', spoil: ofMaterial(OAK, (line) => (line['shading'] = 'plain')) },
  { what: 'a look that is no JSON', says: 'refuses', spoil: (pack) => changeText(pack, LOOK, /\}/, '') },
]

const lists: KeepSpoiler[] = [
  { what: 'another game', says: 'refuses', list: (contents) => (contents['game'] = 'tarn-and-tiller') },
  { what: 'an older version', says: 'complains', list: (contents) => (contents['version'] = '2.0') },
  {
    what: 'a file of another length',
    says: 'refuses',
    list: (contents) => (loose((contents['files'] as unknown[])[0])['bytes'] = 3),
  },
  {
    what: 'a file that is listed and not there',
    says: 'refuses',
    list: (contents) => (contents['files'] as unknown[]).push({ path: 'things/K-00C.obj', bytes: 3 }),
  },
  { what: 'a file that is not listed', says: 'complains', spoil: (pack) => void pack.unlisted.add(`${OAK}.txt`) },
  { what: 'no list of files', says: 'refuses', list: (contents) => delete contents['files'] },
]

describe('a pack of Hollin Keep that was written by hand', () => {
  it('is taken without a word', async () => {
    expect(await judgePack(assembleKeep(keepPack()), rulebook)).toEqual({
      check: 'takes',
      loader: 'takes',
      told: [],
      rules: [],
    })
  })

  it.each([...places, ...meshes, ...pictures, ...materials, ...lists])(
    'with $what: the game $says it',
    async ({ says, spoil, list }) => {
      const pack = keepPack()
      spoil?.(pack)
      const { check, loader, told } = await judgePack(assembleKeep(pack, list), rulebook)
      expect({ check, loader }, told.join('\n')).toEqual({ check: says, loader: says })
    },
  )
})
