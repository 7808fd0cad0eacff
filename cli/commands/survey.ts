import { readItem, isMeshFile } from '../../core/intake/read-item.ts'
import { surveyDocument, type Survey } from '../../core/intake/survey.ts'
import { PlainError } from '../../core/document/plain-error.ts'
import { emptyBounds, isEmptyBounds, uniteBounds } from '../../core/document/measure.ts'
import { parseCall, print, type Command } from '../command.ts'
import { gatherSources } from '../files.ts'

export const survey: Command = {
  name: 'survey',
  usage: 'survey FILE…',
  summary: 'Tells what is in the sources: parts, true triangle counts, materials, textures, unit, axes, bounds.',
  async run(words) {
    const call = parseCall(words, {})
    const files = gatherSources(call.positionals)
    const mains = files.filter((file) => isMeshFile(file.path))
    if (mains.length === 0) throw new PlainError('there is no mesh among them', call.positionals.join(', '), 'Name an OBJ, GLB or glTF file.')
    const used = new Set<string>()
    const surveys: Survey[] = []
    for (const main of mains) {
      const { document, usedPaths } = await readItem(main.path, files)
      for (const path of usedPaths) used.add(path)
      surveys.push(surveyDocument(document))
    }
    const [first] = surveys
    const bounds = surveys.map((each) => each.bounds).reduce(uniteBounds, emptyBounds())
    const sum = (pick: (each: Survey) => number): number => surveys.reduce((total, each) => total + pick(each), 0)
    const json = {
      files: files.filter((file) => used.has(file.path)).map((file) => ({ path: file.path, bytes: file.bytes.length })),
      parts: surveys.flatMap((each) => each.parts),
      triangles: sum((each) => each.triangles),
      vertices: sum((each) => each.vertices),
      polygons: sum((each) => each.polygons),
      materials: surveys.flatMap((each) => each.materials),
      textures: surveys.flatMap((each) => each.textures),
      strays: surveys.flatMap((each) => each.strays),
      clips: surveys.flatMap((each) => each.clips),
      bones: sum((each) => each.bones),
      units: first.units,
      axes: first.axes,
      bounds: isEmptyBounds(bounds) ? { min: [0, 0, 0], max: [0, 0, 0] } : bounds,
    }
    const unit = json.units.metresPerUnit === null ? 'unknown' : `${json.units.metresPerUnit} m`
    print(call, json, [
      ...json.parts.map((part) => `${part.name}: ${part.triangles} triangles, ${part.vertices} vertices, ${part.material || 'no material'}`),
      `${json.triangles} triangles in ${json.parts.length} parts`,
      ...json.materials.flatMap((material) => material.textures.map((texture) => `${material.name}: ${texture.role} ${texture.path} ${texture.found === null ? 'NOT FOUND' : `→ ${texture.found}`}`)),
      ...json.strays.map((stray) => `stray: ${stray.name} (${stray.what})`),
      `unit ${unit} (${json.units.from}), up ${json.axes.up}, forward ${json.axes.forward} (${json.axes.from})`,
    ])
    return 0
  },
}
