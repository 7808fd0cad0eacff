import type { LogLine } from './log.ts'

/** Where in the work something is mended. */
export type LogStage = 'fit' | 'mesh' | 'surface' | 'solids' | 'motion' | 'entry' | 'pack'

/** What a code of the loader's log means, in plain words. */
export interface Explanation {
  says: string
  stage: LogStage
  /** Whether nothing is seen of it in the game: it may stay. */
  harmless?: true
}

const at =
  (stage: LogStage) =>
  (says: string, harmless?: true): Explanation => ({ says, stage, ...(harmless ? { harmless } : {}) })
const fit = at('fit')
const mesh = at('mesh')
const surface = at('surface')
const solids = at('solids')
const motion = at('motion')
const entry = at('entry')
const pack = at('pack')

/** Every code that the loader writes. */
export const explanations: Readonly<Record<string, Explanation>> = {
  'pack.archive': pack('The file is no archive that the game can open. Pack it again.'),
  'pack.empty': pack('No entry lies where the game looks for entries, so that it finds no item.'),
  'pack.path': pack('A file would be written outside of the game’s folder; the game opens no such archive.'),
  'pack.size': pack('The archive is larger than the game reads.'),
  'manifest.missing': pack('The list of files is not there; without it the game reads nothing.'),
  'manifest.unreadable': pack('The list of files is not written as the game reads it.'),
  'manifest.game': pack('The pack was made for another game.'),
  'manifest.version': pack('The pack was made for another version of the game; it is read all the same.', true),
  'manifest.file': pack('The list names a file that is not in the pack.'),
  'manifest.checksum': pack('A file was changed after it was packed.'),
  'manifest.unlisted': pack('A file is in the pack that the list does not name; the game leaves it alone.', true),
  'item.twice': pack('Two entries have one name; the game would keep one of both.'),
  'item.loaded': pack('The item is there, with all that was read of it.', true),
  'mesh.read': mesh('A mesh file was read.', true),
  'look.read': surface('A look was read.', true),

  'entry.unreadable': entry('The entry is not written as the game reads it, or leaves out what every entry says.'),
  'entry.kind': entry('The game has no such kind of thing.'),
  'entry.path': entry('The entry lies in another folder than its item belongs in.'),
  'entry.category': entry('The entry says another category than its kind has.'),
  'entry.changes': entry('It changes an object that the game does not have.'),
  'entry.mesh': entry('The mesh that the entry names is not in the pack.'),
  'entry.like': entry('The game has nothing of that name to be like.'),
  'entry.id': entry('The game has a thing of that name; of two it keeps its own.'),
  'entry.twice': entry('A line stands twice, and nobody knows which of both counts.'),
  'entry.order': entry('The game reads an entry from top to bottom once; what comes too late is passed over.'),
  'entry.unknown': entry('The game does not know this line, and acts as if it were not there.'),
  'entry.missing': entry('A line that every such thing has is not there.'),
  'entry.value': entry('The value is of another sort than the game reads there.'),
  'entry.range': entry('The number lies beyond what the game takes.'),
  'entry.count': entry('The list has too few values or too many.'),
  'entry.again': entry('The list says the same twice; the game does it twice.'),
  'entry.word': entry('The game does not know this word.'),
  'entry.long': entry('The text is longer than the game shows; the rest is cut off.'),
  'entry.form': entry('The text is not of the form that the game asks for.'),
  'entry.lost': entry('The name leads to nothing, or to another sort of thing.'),
  'entry.row': entry('Rows and looks of the item do not belong to each other one by one.'),
  'entry.alike': entry('Another thing says the same where each has to be told apart.'),
  'like.missing': entry('A thing of this kind has to say what it is like: nothing new can be given a behaviour.'),
  'like.kind': entry('The thing that it is like is of another kind.'),
  'like.sound': entry('It is made of one thing and sounds like another.'),
  'like.solids': entry('What one bumps into is of another surface than what it is like.'),
  'like.remains': entry('When it breaks, pieces lie there that it was not made of.'),
  'event.count': entry('It has more events than the game looks through.'),
  'event.when': entry('Nothing ever happens in the game that is called so.'),
  'event.do': entry('The game does not know how to do that.'),
  'event.at': entry('What sets the event off is not in the item.'),
  'event.to': entry('What the event is done to is neither in the item nor another item.'),
  'event.never': entry('Nothing can set the event off: no solid, marker or other event does.'),
  'event.nothing': entry('The event is done, and nothing is seen of it.'),
  'event.circle': entry('Events set each other off without an end; the game would stand still.'),
  'event.twice': entry('When one thing happens, the same is done twice.'),
  'slot.unknown': entry('The game has no such slot for an item to stand in.'),
  'slot.kind': entry('A thing of another kind stands in that slot.'),
  'slot.spelling': entry('The file’s name has to have the slot in it, spelt as the game spells it.'),

  'name.form': surface('The name has signs that the game does not read, or is too long.'),
  'name.long': surface('The name is longer than the field that the game keeps it in.'),
  'name.path': surface('The name has to be the path of what the material shows.'),
  'name.twice': surface('Two things have one name; the game finds only one of them.'),
  'look.missing': surface('The look that the entry names is not in the pack.'),
  'look.unreadable': surface('The look is not written as the game reads it.'),
  'look.empty': surface('The look shows nothing.'),
  'look.material': surface('A material of the mesh is not in the look: it would be drawn grey.'),
  'look.shading': surface('The game has no such way of shading.'),
  'look.map': surface('A map that this shading needs is not there.'),
  'look.forbidden': surface('This shading does not read such a map.'),
  'look.tint': surface('The tint is no colour.'),
  'material.count': surface('It has more materials than the game draws of one item.'),
  'material.missing': surface('Faces have no material: they would be drawn grey.'),
  'material.flag': surface('The game does not know this flag.'),
  'material.surface': surface('The game does not know this surface kind.'),
  'map.missing': surface('A map that the look names is not in the pack.'),
  'map.unreadable': surface('The picture is not one that the game reads.'),
  'map.ending': surface('The name of the map does not end as its role asks.'),
  'map.role': surface('The game has no such role of map.'),
  'map.codec': surface('The picture is compressed in a way that this role does not take.'),
  'map.powers': surface('Sides of the picture are no powers of two.'),
  'map.size': surface('The picture is larger or smaller than the game reads.'),
  'map.aspect': surface('The picture is too long for its width.'),
  'map.levels': surface('Smaller levels of the picture are missing: it would flicker from afar.'),
  'map.memory': surface('All maps together take more memory than the game gives one item.'),
  'map.rows': surface('Rows of the picture stand in another order than the game reads.'),
  'map.space': surface('Colours are marked as data, or data as colours: it looks too bright or too dark.'),

  'mesh.unreadable': mesh('The mesh file is not one that the game reads.'),
  'mesh.empty': mesh('There is nothing to draw.'),
  'mesh.root': mesh('The mesh needs one root that stands plain at the origin.'),
  'mesh.images': mesh('The mesh file carries pictures; the game wants them in files of their own.'),
  'mesh.triangles': mesh('It has more triangles than the game draws of such a thing.'),
  'mesh.together': mesh('View and solids together have too many triangles.'),
  'mesh.corners': mesh('A part has more corners than the game can number.'),
  'body.word': mesh('A part is named as a sort of body that this kind does not have: the game takes it as it likes.'),
  'body.open': mesh('A body has holes: the game cannot tell its inside, and leaves it out where bodies are cut.'),
  'body.side': mesh('Faces look to the side that nobody sees: a solid inward, or a room outward.'),
  'body.alone': mesh('A room lies in no solid body, so that nothing is cut out.'),
  'mesh.fine': mesh('Edges are finer than the game’s cutter: they fall out and leave holes.'),
  'mesh.sections': mesh('It falls into more sections than the game draws.'),
  'mesh.section': mesh('A section has too many corners.'),
  'mesh.uvs': surface('It has pictures and says nothing of where they lie.'),
  'mesh.normals': mesh('Faces say nothing of how light falls on them: they are drawn flat.'),
  'mesh.normal-length': mesh(
    'Some of what says how light falls is of the wrong length: spots are too dark or too bright.',
  ),
  'mesh.tangents': surface('What relief is laid along is missing; the game makes its own.'),
  'mesh.tangent-hand': surface('Relief is laid along a way that is neither left nor right: bumps look like dents.'),
  'mesh.transform': fit('A part that does not move is turned or scaled by its node; the game skips that.'),
  'mesh.backs': mesh('Backs of faces can be seen: there one looks through.'),
  'mesh.flat': mesh('It has no depth, so that nothing is seen from aside.'),
  'mesh.thin': mesh('It is thinner than the game draws.'),
  'mesh.giant': fit('It is larger than anything in the game: the unit is probably wrong.'),
  'mesh.away': fit('It lies far from its own origin: it appears elsewhere than where it is put.'),
  'mesh.motion': motion('It carries clips; a thing of this kind does not move, and the game skips them.', true),
  'mesh.extension': mesh('The file has something that the game does not know, and skips.', true),
  'mesh.lights': motion('It has more lights than the game lights of such a thing.'),
  'mesh.morphs': mesh('It has shapes to turn into; the game draws the first alone.'),
  'mesh.bones': motion('Its bones are none that the game reads.'),
  'mesh.stiff': motion('A part that bends is held by one bone alone.'),
  'mesh.influences': motion('A corner follows more bones than the game reads.'),
  'mesh.weights': motion('Shares of bones at a corner are not 1 together: it is pulled out of its place.'),
  'block.count': mesh('It has more half-blocks than the game builds with.'),
  'block.size': mesh('A half-block is smaller than the game builds.'),
  'tray.count': surface('It has more trays than the game sorts.'),
  'level.missing': mesh('A level for far off is missing: all of it is drawn however small it is.'),
  'level.part': mesh('A level lacks a part: it disappears when one goes away.'),
  'level.dense': mesh('A level has nearly as many triangles as what it stands for.'),
  'level.geometry': mesh('A level is another thing than what it stands for: it jumps as one goes away.'),
  'level.material': mesh('A level shows another material than its part.'),
  'level.materials': mesh('Levels do not show the same materials.'),
  'level.bones': motion('A level hangs on other bones than its part.'),
  'shadow.missing': mesh('A mesh for its shadow is missing: the game throws that of the whole.'),
  'shadow.dense': mesh('The mesh for its shadow has too many triangles.'),

  'solid.missing': solids('One walks through it: nothing of it is solid.'),
  'solid.name': solids('A name is nearly that of a solid; the game draws it instead.'),
  'solid.place': solids('A solid stands elsewhere than under its part.'),
  'solid.shape': solids('A thing of this kind takes no such shape.'),
  'solid.count': solids('It has more solids than the game reads.'),
  'solid.points': solids('A hull has more corners than the game reads.'),
  'solid.mass': solids('It weighs more or less than the game lets a thing weigh.'),
  'solid.surface': solids('A solid is of a surface kind that the game does not have.'),
  'solid.skipped': solids('A solid lacks what the game reads of it, and is passed over: one walks through.'),
  'solid.layer': solids('A solid is on a layer that the game does not have: nothing meets it there.'),
  'solid.apart': solids('A solid lies beside its part: one bumps into nothing.'),
  'solid.closes': solids('A solid closes a way that is open to the eye.'),

  'motion.rate': motion('Keys follow each other faster than the game reads them.'),
  'motion.long': motion('A clip is longer than the game plays.'),
  'motion.keys': motion('Clips have more keys than the game keeps.'),
  'motion.start': motion('A clip does not begin at once: the thing jumps.'),
  'motion.loop': motion('A clip does not end where it begins: the thing jumps each time it comes round.'),
  'motion.twice': motion('Two clips move one thing at once.'),
  'marker.count': motion('There are too few or too many of a marker.'),
  'marker.height': motion('A marker does not stand as high above what is under it as it should.'),
  'marker.below': motion('A marker does not lie as far below everything as it should.'),
  'marker.rides': motion('A marker is moved; the game reads its place once.'),
  'group.none': motion('A part stands in no group: the game does not know whether it moves.'),
  'group.rests': motion('What is named as moving has no motion.'),
  'group.moves': motion('What is named as standing still is moved.'),
  'group.untold': motion('Something is moved outside of any group.'),
  'group.backdrop': motion('A solid stands in a backdrop, which nobody reaches: it is passed over.', true),
  'bone.alone': motion('A bone follows no stiff part.'),
  'bone.shared': motion('Two bones follow one part.'),
  'bone.below': motion('What bends hangs under a bone: it is moved twice.'),
  'point.inside': motion('What joins there is hidden in the body.'),
  'point.inward': motion('What joins there grows into the body.'),
  'point.untold': motion('It is not said what may join there: the game offers nothing.'),
  'point.wide': motion('What joins there is narrower than was said: a gap stays.'),
  'facing.turns': motion('The game does not turn things that way.'),
  'facing.flat': mesh('Only its front is ever seen; the rest is drawn for nothing.'),
  'facing.front': fit('Another side than its front is turned to who looks.'),
  'facing.pivot': fit('It goes round beside itself as one walks by.'),
  'facing.height': fit('It hangs so low that one walks into it.'),
  'facing.shadow': surface('Its shadow turns with who looks, which gives the picture away.'),
}

const unknown: Explanation = { says: 'The game says no more of it.', stage: 'pack' }

/** A line of the log with what it means. */
export type ExplainedLine = LogLine & Omit<Explanation, 'harmless'> & { harmless: boolean }

/**
 * What a line of the loader's log means, and whether it may stay; what the loader only tells is always harmless.
 *
 * @example explain({ level: 'complaint', code: 'mesh.backs', message: '…', file: '', item: 'gate' }).stage // 'mesh'
 */
export function explain(line: LogLine): ExplainedLine {
  const known = Object.hasOwn(explanations, line.code) ? explanations[line.code] : unknown
  return {
    ...line,
    ...known,
    harmless: line.level === 'told' || (line.level === 'complaint' && known.harmless === true),
  }
}
