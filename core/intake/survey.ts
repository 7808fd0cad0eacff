import type { Document } from '@gltf-transform/core'
import { getMaterialExtras, getRootExtras, type Axes, type TextureReference, type Units } from '../document/extras.ts'
import { isEmptyBounds, partsBounds, type Bounds } from '../document/measure.ts'
import { countMeshCorners, countMeshTriangles, countTriangles, listUsedMaterials, listViewParts } from '../document/parts.ts'
import { countLargePolygons } from '../document/polygons.ts'
import { findStrays } from '../document/strays.ts'

/** What is in a source, as `survey` prints it. */
export interface Survey {
  parts: { name: string; triangles: number; vertices: number; material: string }[]
  triangles: number
  vertices: number
  polygons: number
  materials: { name: string; textures: TextureReference[] }[]
  textures: { name: string; width: number; height: number; bytes: number }[]
  strays: { name: string; what: string }[]
  clips: { name: string; seconds: number; keys: number }[]
  bones: number
  units: Units
  axes: Axes
  bounds: Bounds
}

/** Measures an item document; `triangles` counts each drawn instance. */
export function surveyDocument(document: Document): Survey {
  const root = document.getRoot()
  const parts = listViewParts(document)
  const extras = getRootExtras(root)
  const bounds = partsBounds(parts)
  return {
    parts: parts.map((part) => ({
      name: part.name,
      triangles: countMeshTriangles(part.mesh),
      vertices: countMeshCorners(part.mesh),
      material: [...new Set(part.mesh.listPrimitives().map((primitive) => primitive.getMaterial()?.getName() ?? ''))].join(', '),
    })),
    triangles: countTriangles(parts),
    vertices: [...new Set(parts.map((part) => part.mesh))].reduce((sum, mesh) => sum + countMeshCorners(mesh), 0),
    polygons: countLargePolygons(document),
    materials: listUsedMaterials(document).map((material) => ({ name: material.getName(), textures: getMaterialExtras(material).references })),
    textures: root.listTextures().map((texture) => ({
      name: texture.getName(),
      width: texture.getSize()?.[0] ?? 0,
      height: texture.getSize()?.[1] ?? 0,
      bytes: texture.getImage()?.byteLength ?? 0,
    })),
    strays: findStrays(document).map(({ name, what }) => ({ name, what })),
    clips: root.listAnimations().map((animation) => ({
      name: animation.getName(),
      seconds: Math.max(0, ...animation.listSamplers().map((sampler) => sampler.getInput()?.getMax([])[0] ?? 0)),
      keys: animation.listSamplers().reduce((sum, sampler) => sum + (sampler.getInput()?.getCount() ?? 0), 0),
    })),
    bones: new Set(root.listSkins().flatMap((skin) => skin.listJoints())).size,
    units: extras.units,
    axes: extras.axes,
    bounds: isEmptyBounds(bounds) ? { min: [0, 0, 0], max: [0, 0, 0] } : bounds,
  }
}
