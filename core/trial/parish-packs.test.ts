import { describe, expect, it } from 'vitest'
import { rulebookById } from '../game/load.ts'
import {
  type ParishSpoiler,
  type Loose,
  inFile,
  inPiece,
  inTrays,
  inHalf,
  ofDye,
  inText,
  moved,
  loose,
  boxes,
} from '../test-support/spoiled/parish-changes.ts'
import { assembleParish, parishPack, DYE, PARTS, PIECE, parishBox } from '../test-support/spoiled/parish-pack.ts'
import { judgePack } from '../test-support/spoiled/judge-pack.ts'

const rulebook = rulebookById('pegboard-parish')

const pieces: ParishSpoiler[] = [
  { what: 'an entry in another folder', says: 'refuses', spoil: moved(PIECE, 'plots/bench/piece.json') },
  { what: 'an entry in the folder of another piece', says: 'refuses', spoil: moved(PIECE, 'kerbs/lamp/piece.json') },
  {
    what: 'two entries for one item',
    says: 'refuses',
    spoil: ({ texts }) => void texts.set('kerbs/lamp/piece.json', texts.get(PIECE) ?? ''),
  },
  { what: 'an entry that is no JSON', says: 'refuses', spoil: inText(PIECE, '{', '') },
  { what: 'an unknown kind', says: 'refuses', spoil: inPiece((piece) => (piece['kind'] = 'prop')) },
  { what: 'another kind', says: 'refuses', spoil: inPiece((piece) => (piece['kind'] = 'plotpiece')) },
  { what: 'another category', says: 'refuses', spoil: inPiece((piece) => (piece['category'] = 'plots')) },
  { what: 'a name with a capital', says: 'refuses', spoil: inPiece((piece) => (piece['item'] = 'Bench')) },
  { what: 'a name with an underline', says: 'refuses', spoil: inPiece((piece) => (piece['item'] = 'be_nch')) },
  { what: 'a name of 41 letters', says: 'refuses', spoil: inPiece((piece) => (piece['item'] = 'b'.repeat(41))) },
  { what: 'a name that the system keeps', says: 'refuses', spoil: inPiece((piece) => (piece['item'] = 'aux')) },
  { what: 'no looks', says: 'refuses', spoil: inPiece((piece) => (piece['looks'] = [])) },
  { what: 'no item', says: 'refuses', spoil: inPiece((piece) => delete piece['item']) },
  { what: 'a list of parts that is not there', says: 'refuses', spoil: ({ texts }) => void texts.delete(PARTS) },
  {
    what: 'a list of parts under another name',
    says: 'refuses',
    spoil: inPiece((piece) => (piece['mesh'] = 'kerbs/bench/list.json')),
  },
  {
    what: 'a donor that the game does not have',
    says: 'refuses',
    spoil: inPiece((piece) => (piece['like'] = 'stool')),
  },
  {
    what: 'a word that the game does not know',
    says: 'complains',
    spoil: inPiece((piece) => (piece['made'] = 'by hand')),
  },
]

const trays: ParishSpoiler[] = [
  {
    what: 'two trays of one name',
    says: 'refuses',
    spoil: inTrays(([, legs]) => (legs.tray = 'seat')),
  },
  { what: 'a tray with a space', says: 'refuses', spoil: inTrays(([seat]) => (seat.tray = 'the seat')) },
  { what: 'a tray with a capital', says: 'refuses', spoil: inTrays(([seat]) => (seat.tray = 'Seat')) },
  { what: 'a tray without a name', says: 'refuses', spoil: inTrays(([seat]) => delete seat.tray) },
  { what: 'a tray whose name is a number', says: 'refuses', spoil: inTrays(([seat]) => (seat.tray = 7)) },
  { what: 'an empty tray', says: 'refuses', spoil: inTrays(([seat]) => (seat.halves = [])) },
  { what: 'a tray without a list', says: 'refuses', spoil: inTrays(([seat]) => delete loose(seat)['halves']) },
  { what: 'a tray without a dye', says: 'refuses', spoil: inTrays(([seat]) => delete seat.dye) },
  { what: 'a tray with an unknown dye', says: 'refuses', spoil: inTrays(([seat]) => (seat.dye = 'plnak')) },
  { what: 'a tray with two dyes', says: 'refuses', spoil: inTrays(([seat]) => (seat.dye = ['plank', 'frame'])) },
  { what: 'two trays of one dye', says: 'takes', spoil: inTrays(([, legs]) => (legs.dye = 'plank')) },
  { what: 'no trays', says: 'refuses', spoil: inTrays((all) => all.splice(0)) },
  {
    what: '25 trays',
    says: 'refuses',
    spoil: inTrays((all) => {
      for (let number = 0; all.length < 25; number++)
        all.push({
          tray: `box-${number}`,
          dye: 'plank',
          halves: parishBox([number * 4, 50, 0], [number * 4 + 3, 53, 3]),
        })
    }),
  },
  {
    what: '24 trays',
    says: 'takes',
    spoil: inTrays((all) => {
      for (let number = 0; all.length < 24; number++)
        all.push({
          tray: `box-${number}`,
          dye: 'plank',
          halves: parishBox([number * 4, 50, 0], [number * 4 + 3, 53, 3]),
        })
    }),
  },
  { what: 'trays under another word', says: 'refuses', spoil: inText(PARTS, '"trays"', '"boxes"') },
  { what: 'half-blocks under another word', says: 'refuses', spoil: inText(PARTS, '"halves"', '"blocks"') },
  { what: 'a list that is no JSON', says: 'refuses', spoil: inText(PARTS, '{', '') },
  {
    what: 'a list that ends half-way',
    says: 'refuses',
    spoil: ({ texts }) => void texts.set(PARTS, (texts.get(PARTS) ?? '').slice(0, 900)),
  },
]

const halves: ParishSpoiler[] = [
  { what: 'a leg of 0.39', says: 'refuses', spoil: inHalf((half) => (half.legs[1] = 0.39)) },
  {
    what: 'legs of 0.4',
    says: 'takes',
    spoil: inTrays(([seat]) => seat.halves.push(...parishBox([0, 0, 0], [0.4, 0.4, 0.4]))),
  },
  { what: 'a leg of nothing', says: 'refuses', spoil: inHalf((half) => (half.legs[0] = 0)) },
  { what: 'a leg below nothing', says: 'refuses', spoil: inHalf((half) => (half.legs[0] = -5)) },
  { what: 'three legs', says: 'refuses', spoil: inHalf((half) => half.legs.push(1)) },
  { what: 'no legs', says: 'refuses', spoil: inHalf((half) => delete loose(half)['legs']) },
  { what: 'a corner of two numbers', says: 'refuses', spoil: inHalf((half) => half.corner.pop()) },
  { what: 'a corner that is a text', says: 'refuses', spoil: inHalf((half) => (loose(half)['corner'] = '0 40 0')) },
  { what: 'a corner that is nothing', says: 'refuses', spoil: inHalf((half) => (loose(half.corner)[0] = null)) },
  { what: 'a turn of three numbers', says: 'refuses', spoil: inHalf((half) => half.turn.pop()) },
  { what: 'a turn of no length', says: 'refuses', spoil: inHalf((half) => (half.turn = [0, 0, 0, 0])) },
  { what: 'a turn twice too long', says: 'refuses', spoil: inHalf((half) => (half.turn = [0, 0, 0, 2])) },
  {
    what: 'a turn given the other way round',
    says: 'takes',
    spoil: inHalf((half) => (half.turn = half.turn.map((each) => -each))),
  },
  { what: 'no turn', says: 'refuses', spoil: inHalf((half) => delete loose(half)['turn']) },
  {
    what: '8,004 half-blocks',
    says: 'refuses',
    spoil: inTrays((all) => all.splice(0, 2, { tray: 'seat', dye: 'plank', halves: boxes(667) })),
  },
  {
    what: '7,992 half-blocks',
    says: 'takes',
    spoil: inTrays((all) => all.splice(0, 2, { tray: 'seat', dye: 'plank', halves: boxes(666) })),
  },
  {
    what: 'half-blocks that look inward',
    says: 'complains',
    spoil: inTrays((all) => {
      for (const tray of all)
        for (const half of tray.halves) {
          const [x, y, z, w] = half.turn
          // Turned over along the line between the legs, which change places.
          half.turn = [(w - z) * Math.SQRT1_2, (w + z) * Math.SQRT1_2, (x - y) * Math.SQRT1_2, -(x + y) * Math.SQRT1_2]
          half.legs.reverse()
        }
    }),
  },
  {
    what: 'a piece mirrored from left to right',
    says: 'takes',
    spoil: inTrays((all) => {
      for (const tray of all)
        for (const half of tray.halves) {
          // Seen in a mirror, what looked outward looks outward: the legs change places.
          const [x, y, z, w] = half.turn
          half.corner[0] *= -1
          half.legs.reverse()
          half.turn = [y - x, x + y, z - w, -(w + z)].map((value) => value * Math.SQRT1_2)
        }
    }),
  },
  {
    what: 'a piece of a mile',
    says: 'complains',
    spoil: inTrays(([seat]) => seat.halves.push(...parishBox([0, 0, 0], [160_934, 5, 5]))),
  },
  {
    what: 'a piece far from its origin',
    says: 'complains',
    spoil: inTrays((all) => {
      for (const tray of all) for (const half of tray.halves) half.corner[0] += 20_000
    }),
  },
  {
    what: 'half-blocks in another order',
    says: 'takes',
    spoil: inTrays(([seat]) => seat.halves.reverse()),
  },
  {
    what: 'a half-block alone',
    says: 'takes',
    spoil: inTrays((all) =>
      all.push({ tray: 'flag', dye: 'plank', halves: [{ corner: [0, 60, 0], turn: [0, 0, 0, 1], legs: [9, 9] }] }),
    ),
  },
]

const dyes: ParishSpoiler[] = [
  { what: 'a look that is not there', says: 'refuses', spoil: ({ texts }) => void texts.delete(DYE) },
  { what: 'a look that is no JSON', says: 'refuses', spoil: inText(DYE, '}', '') },
  { what: 'an unknown finish', says: 'refuses', spoil: ofDye('plank', (line) => (line['surface'] = 'ebony')) },
  { what: 'no finish', says: 'refuses', spoil: ofDye('plank', (line) => delete line['surface']) },
  { what: 'no tint', says: 'refuses', spoil: ofDye('plank', (line) => delete line['tint']) },
  { what: 'a tint in words', says: 'refuses', spoil: ofDye('plank', (line) => (line['tint'] = 'brown')) },
  { what: 'a tint of three signs', says: 'refuses', spoil: ofDye('plank', (line) => (line['tint'] = '#a84')) },
  { what: 'a tint in capitals', says: 'takes', spoil: ofDye('plank', (line) => (line['tint'] = '#A87844')) },
  { what: 'an unknown flag', says: 'refuses', spoil: ofDye('plank', (line) => (line['flags'] = ['veil'])) },
  { what: 'an unknown shading', says: 'refuses', spoil: ofDye('plank', (line) => (line['shading'] = 'skinned')) },
  {
    what: 'a picture',
    says: 'refuses',
    spoil: ofDye('plank', (line) => (line['maps'] = { colour: 'kerbs/bench/plank.png' })),
  },
  {
    what: 'a dye with a capital',
    says: 'refuses',
    spoil: (pack) => {
      inTrays(([seat]) => (seat.dye = 'Plank'))(pack)
      inText(DYE, '"plank"', '"Plank"')(pack)
    },
  },
  {
    what: 'a dye that nothing shows',
    says: 'takes',
    spoil: inFile<{ materials: Record<string, Loose> }>(
      DYE,
      ({ materials }) => (materials['spare'] = materials['plank']),
    ),
  },
]

const lists: ParishSpoiler[] = [
  { what: 'another game', says: 'refuses', list: (contents) => (contents['game'] = 'hollin-keep') },
  { what: 'an older version', says: 'complains', list: (contents) => (contents['version'] = '1.3') },
  {
    what: 'a file of another length',
    says: 'refuses',
    list: (contents) => (loose((contents['files'] as unknown[])[0])['bytes'] = 3),
  },
  {
    what: 'a file of another checksum',
    says: 'refuses',
    list: (contents) => (loose((contents['files'] as unknown[])[1])['sha256'] = '0'.repeat(64)),
  },
  {
    what: 'a file that is listed and not there',
    says: 'refuses',
    list: (contents) => (contents['files'] as unknown[]).push({ path: 'kerbs/lamp/parts.json', bytes: 3 }),
  },
  { what: 'a file that is not listed', says: 'complains', spoil: (pack) => void pack.unlisted.add(DYE) },
  { what: 'no list of files', says: 'refuses', list: (contents) => delete contents['files'] },
]

describe('a pack of Pegboard Parish that was written by hand', () => {
  it('is taken without a word', async () => {
    expect(await judgePack(assembleParish(parishPack()), rulebook)).toEqual({
      check: 'takes',
      loader: 'takes',
      told: [],
      rules: [],
    })
  })

  it.each([...pieces, ...trays, ...halves, ...dyes, ...lists])(
    'with $what: the game $says it',
    async ({ says, spoil, list }) => {
      const pack = parishPack()
      spoil?.(pack)
      const { check, loader, told } = await judgePack(assembleParish(pack, list), rulebook)
      expect({ check, loader }, told.join('\n')).toEqual({ check: says, loader: says })
    },
  )
})
