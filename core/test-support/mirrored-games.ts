import { rulebookSchema, type Rulebook } from '../game/schema.ts'
import { tarnAndTiller } from './prepared-gate.ts'

/**
 * The same game five times over, each made of the built-in one as data alone: lying on its side, seen in a mirror,
 * measured in inches, and with other files, twice. What goes through one of them must come out of the others the same.
 */
export const mirroredGames: readonly Rulebook[] = [
  mirrored('tarn-upright', { space: { ...tarnAndTiller.space, up: '+z', forward: '-y' } }),
  mirrored('tarn-left', { space: { ...tarnAndTiller.space, handedness: 'left' } }),
  inInches(),
  inPlainFiles(),
  inTradeFiles(),
]

function mirrored(id: string, change: Partial<Rulebook>): Rulebook {
  return rulebookSchema.parse({ ...structuredClone(tarnAndTiller), id, title: id, ...change })
}

/** Every length of the rulebook in inches. */
function inInches(): Rulebook {
  const times = tarnAndTiller.space.unit.metres / 0.0254
  const { space, levels, solids, markers } = structuredClone(tarnAndTiller)
  return mirrored('tarn-inches', {
    space: {
      ...space,
      unit: { name: 'inch', plural: 'inches', metres: 0.0254 },
      figure: {
        height: space.figure.height * times,
        width: space.figure.width * times,
        eyeHeight: space.figure.eyeHeight * times,
        stepHeight: space.figure.stepHeight * times,
        slopeDegrees: space.figure.slopeDegrees,
      },
      doorway: { width: space.doorway.width * times, height: space.doorway.height * times },
      gridCell: space.gridCell * times,
      smallestDrawn: space.smallestDrawn * times,
      largestItem: space.largestItem * times,
      depth: { ...space.depth, near: space.depth.near * times },
    },
    levels: {
      ...levels,
      chain: levels.chain.map((level) => ({ ...level, fromDistance: level.fromDistance * times })),
    },
    solids: {
      ...solids,
      noticedGap: solids.noticedGap * times,
      bodies: solids.bodies.map((body) => ({
        ...body,
        size: body.size.map((side) => side * times) as [number, number, number],
      })),
    },
    markers: markers.map((marker) => ({
      ...marker,
      aboveGround: marker.aboveGround === null ? null : marker.aboveGround * times,
      belowLowest: marker.belowLowest && {
        least: marker.belowLowest.least * times,
        most: marker.belowLowest.most * times,
      },
    })),
  })
}

/** OBJ with material files and TGA, materials named by the path of what they show, a stored archive with folders. */
function inPlainFiles(): Rulebook {
  const { files, maps, materials, kinds } = structuredClone(tarnAndTiller)
  return mirrored('tarn-plain', {
    files: {
      ...files,
      mesh: { writer: 'obj', ending: '.obj', images: 'none' },
      texture: { writer: 'tga', ending: '.tga', topDown: false, packed: false },
      archive: { ...files.archive, writer: 'zip-stored', folders: true },
      manifest: { ...files.manifest, checksums: 'none' },
      paths: {
        ...files.paths,
        mesh: files.paths.mesh.replace('.glb', '.obj'),
        map: files.paths.map.replace('.dds', '.tga'),
      },
    },
    maps: {
      ...maps,
      mipmaps: 'none',
      roles: maps.roles.map((role) => ({ ...role, codecs: ['none'], preferred: 'none', whenOpaque: null })),
    },
    materials: { ...materials, naming: { form: 'path', ofRole: 'colour', longest: 100 } },
    // What OBJ has no word for is not asked; pixels that are not packed take eight times the room.
    kinds: kinds.map((kind) => ({
      ...kind,
      bones: null,
      mostLights: 0,
      groupsAsked: false,
      markers: false,
      attachPoints: false,
      textureMemoryBytes: kind.textureMemoryBytes * 8,
    })),
  })
}

/** COLLADA and PNG, texts in words of its own, loose files, names that carry nothing, lying on its side. */
function inTradeFiles(): Rulebook {
  const { space, files, maps, materials, kinds } = structuredClone(tarnAndTiller)
  return mirrored('tarn-trade', {
    space: { ...space, up: '+z', forward: '-y' },
    files: {
      ...files,
      mesh: { writer: 'dae', ending: '.dae', images: 'none' },
      texture: { writer: 'png', ending: '.png', topDown: false, packed: false },
      archive: { ...files.archive, writer: 'folder' },
      entry: { writer: 'text' },
      look: { writer: 'text' },
      manifest: { writer: 'text', path: 'contents.txt', checksums: 'sha256' },
      text: { between: ':', comment: ';' },
      // Words of the game, one of them ours for another field.
      words: {
        entry: { item: 'name', kind: 'class', looks: 'skins', mesh: 'item' },
        look: { look: 'skin', materials: 'parts', maps: 'pictures', shading: 'drawn' },
        manifest: { game: 'for', files: 'list', path: 'file' },
      },
      paths: {
        ...files.paths,
        mesh: files.paths.mesh.replace('.glb', '.dae'),
        map: files.paths.map.replace('.dds', '.png'),
        entry: files.paths.entry.replace('.json', '.txt'),
        look: files.paths.look.replace('.json', '.txt'),
      },
    },
    maps: {
      ...maps,
      mipmaps: 'none',
      roles: maps.roles.map((role) => ({ ...role, codecs: ['none'], preferred: 'none', whenOpaque: null })),
    },
    materials: { ...materials, naming: { form: 'plain' } },
    kinds: kinds.map((kind) => ({
      ...kind,
      mostLights: 0,
      textureMemoryBytes: kind.textureMemoryBytes * 8,
    })),
  })
}
