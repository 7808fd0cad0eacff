import type { Survey } from '../../core/intake/survey'
import type { SourceReport } from './source-messages'

/** A source's survey in the shape in which it crosses to the page. */
export function sourceReport(survey: Survey): SourceReport {
  const parts = new Set(survey.parts.map((part) => part.name))
  return {
    triangles: survey.triangles,
    parts: survey.parts.map(({ name, triangles, material }) => ({
      name,
      triangles,
      material,
      stray: survey.strays.find((stray) => stray.name === name)?.what ?? null,
    })),
    others: survey.strays.filter((stray) => !parts.has(stray.name)),
    references: survey.materials.flatMap((material) =>
      material.textures.map(({ role, path, found, stock, problem, pixels }) => ({
        material: material.name,
        role,
        path,
        found,
        stock: stock ?? null,
        problem: problem ?? null,
        pixels: pixels ?? null,
      })),
    ),
    units: survey.units,
    sizes: survey.sizes,
    axes: survey.axes,
    clips: survey.clips.map(({ name, seconds, keys }) => ({ name, seconds, keys })),
    bones: survey.bones,
    oddities: survey.oddities,
  }
}
