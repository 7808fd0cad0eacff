import { bringIn } from '../../core/crate/bring-in.ts'
import type { Survey } from '../../core/intake/survey.ts'
import { emptyBounds, isEmptyBounds, uniteBounds } from '../../core/item/measure.ts'
import { parseCall, print, type Command } from '../command.ts'
import { gatherSources } from '../files.ts'

export const survey: Command = {
  async run(words) {
    const call = parseCall(words, {})
    const brought = await bringIn(gatherSources(call.positionals), 'source', {}, [])
    const surveys = brought.map((each) => each.survey)
    const files = new Map(brought.flatMap((each) => each.item.sources.map((source) => [source.path, source])))
    const [first] = surveys
    const bounds = surveys.map((each) => each.bounds).reduce(uniteBounds, emptyBounds())
    const sum = (pick: (each: Survey) => number): number => surveys.reduce((total, each) => total + pick(each), 0)
    const json = {
      files: [...files.values()].map(({ path, bytes }) => ({ path, bytes })),
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
      sizes: first.sizes,
      axes: first.axes,
      bounds: isEmptyBounds(bounds) ? { min: [0, 0, 0], max: [0, 0, 0] } : bounds,
      oddities: surveys.flatMap((each) => each.oddities),
    }
    const unit = json.units.metresPerUnit === null ? 'unknown' : `${json.units.metresPerUnit} m`
    print(call, json, [
      ...json.parts.map(
        (part) =>
          `${part.name}: ${part.triangles} triangles, ${part.vertices} vertices, ${part.material || 'no material'}`,
      ),
      `${json.triangles} triangles in ${json.parts.length} parts`,
      ...json.materials.flatMap((material) =>
        material.textures.map(
          (texture) =>
            `${material.name}: ${texture.role} ${texture.path} ` +
            `${texture.found === null ? 'NOT FOUND' : `→ ${texture.found}`}`,
        ),
      ),
      `unit ${unit} (${json.units.from}), up ${json.axes.up}, forward ${json.axes.forward} (${json.axes.from})`,
      ...json.sizes
        .slice(0, 4)
        .map(
          (size) =>
            `as ${size.unit}: ${size.metres.map((metres) => Number(metres.toPrecision(3))).join(' × ')} ` +
            `m${size.why === '' ? '' : ` (${size.why})`}`,
        ),
      ...json.oddities.map((odd) => `▲ ${odd.message}`),
    ])
    return 0
  },
}
