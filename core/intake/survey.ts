import type { Document } from '@gltf-transform/core'
import {
  getMaterialExtras,
  getRootExtras,
  getTextureExtras,
  type Axes,
  type TextureReference,
  type Units,
} from '../item/extras.ts'
import { boundsSize, isEmptyBounds, partBounds, partsBounds, type Bounds } from '../item/measure.ts'
import {
  countMeshCorners,
  countMeshTriangles,
  countTriangles,
  listUsedMaterials,
  listViewParts,
} from '../item/parts.ts'
import { countLargePolygons } from '../item/polygons.ts'
import { findStrays } from '../item/strays.ts'
import { lengthUnits, metresOrLikely } from '../item/units.ts'
import { clipFacts, type ClipFacts } from './report/motion.ts'
import type { Oddity } from './report/oddity.ts'
import { findOddities } from './report/report.ts'

/** A source by its path and checksum: enough to tell doubles and what is used. */
export interface SourceFacts {
  path: string
  sha256: string
}

/** What is in a source, as `survey` prints it. */
export interface Survey {
  parts: { name: string; triangles: number; vertices: number; material: string; bounds: Bounds }[]
  triangles: number
  vertices: number
  polygons: number
  materials: { name: string; textures: TextureReference[] }[]
  textures: { name: string; width: number; height: number; bytes: number; cameAs: string }[]
  strays: { name: string; what: string }[]
  clips: ClipFacts[]
  bones: number
  units: Units
  /** How large the item is under each unit it may be in, the most likely first. */
  sizes: UnitSize[]
  axes: Axes
  bounds: Bounds
  oddities: Oddity[]
}

export interface UnitSize {
  unit: string
  metresPerUnit: number
  /** Width, height and depth in metres, height along the up axis. */
  metres: [number, number, number]
  why: 'declared' | 'customary' | 'chosen' | 'guess' | ''
}

/**
 * Measures an item document; `triangles` counts each drawn instance.
 * @example const { triangles, bounds } = surveyDocument(document)
 */
export function surveyDocument(document: Document, sources: readonly SourceFacts[] = []): Survey {
  const root = document.getRoot()
  const parts = listViewParts(document)
  const extras = getRootExtras(root)
  const bounds = partsBounds(parts)
  return {
    parts: parts.map((part) => ({
      name: part.name,
      triangles: countMeshTriangles(part.mesh),
      vertices: countMeshCorners(part.mesh),
      material: [
        ...new Set(part.mesh.listPrimitives().map((primitive) => primitive.getMaterial()?.getName() ?? '')),
      ].join(', '),
      bounds: partBounds(part),
    })),
    triangles: countTriangles(parts),
    vertices: [...new Set(parts.map((part) => part.mesh))].reduce((sum, mesh) => sum + countMeshCorners(mesh), 0),
    polygons: countLargePolygons(document),
    materials: listUsedMaterials(document).map((material) => ({
      name: material.getName(),
      textures: getMaterialExtras(material).references,
    })),
    textures: root.listTextures().map((texture) => ({
      name: texture.getName(),
      width: texture.getSize()?.[0] ?? 0,
      height: texture.getSize()?.[1] ?? 0,
      bytes: texture.getImage()?.byteLength ?? 0,
      cameAs: getTextureExtras(texture).cameAs ?? '',
    })),
    strays: findStrays(document).map(({ name, what }) => ({ name, what })),
    clips: root.listAnimations().map(clipFacts),
    bones: new Set(root.listSkins().flatMap((skin) => skin.listJoints())).size,
    units: extras.units,
    sizes: unitSizes(boundsSize(bounds), extras.units, extras.axes),
    axes: extras.axes,
    bounds: isEmptyBounds(bounds) ? { min: [0, 0, 0], max: [0, 0, 0] } : bounds,
    oddities: findOddities({ document, sources }),
  }
}

/** The known unit first, else the likely one; then all others by length. */
function unitSizes(size: readonly number[], units: Units, axes: Axes): UnitSize[] {
  const first = metresOrLikely(units, Math.max(...size, 1e-9))
  const up = 'xyz'.indexOf(axes.up[1])
  const ahead = 'xyz'.indexOf(axes.forward[1])
  const across = 3 - up - ahead
  const known = lengthUnits.find((unit) => Math.abs(unit.metres - first) < first * 1e-6)
  const others = lengthUnits
    .filter((unit) => unit !== known)
    .map((unit) => ({ unit: unit.id as string, metresPerUnit: unit.metres as number }))
  return [{ unit: known?.id ?? `${Number(first.toPrecision(4))} m`, metresPerUnit: first }, ...others].map(
    ({ unit, metresPerUnit }, index) => ({
      unit,
      metresPerUnit,
      metres: [size[across] * metresPerUnit, size[up] * metresPerUnit, size[ahead] * metresPerUnit],
      why: index > 0 ? '' : units.metresPerUnit !== first || units.from === 'unknown' ? 'guess' : units.from,
    }),
  )
}
