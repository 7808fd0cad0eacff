import * as watlas from 'watlas'
import { uvArea } from './uv-raster.ts'

/** A surface to unwrap: 3 floats a corner, 3 indices a triangle; normals help to find where to cut. */
export interface UnwrapInput {
  positions: Float32Array
  normals: Float32Array | null
  indices: Uint32Array
}

/** A surface with UVs: its corners are gathered from the old ones, since islands cut them apart. */
export interface Unwrapped {
  oldCorner: Uint32Array
  indices: Uint32Array
  /** 2 floats a corner, 0 to 1. */
  uvs: Float32Array
}

export interface UnwrapResult {
  surfaces: Unwrapped[]
  islands: number
  /** Pixels between islands: as asked, or fewer where there are very many. */
  marginPixels: number
  /** Share of the square that islands cover. */
  used: number
}

let ready: Promise<void> | null = null

/** A margin is at most this share of the square that an island has to itself: it may not take more room than they. */
const MOST_MARGIN = 1 / 6
const LEAST_MARGIN_PIXELS = 2

/**
 * The room between islands that so many of them leave.
 * @example marginBetween(4096, 1024, 32) // 3
 */
export const marginBetween = (islands: number, sidePixels: number, askedPixels: number): number =>
  Math.min(
    Math.max(1, Math.round(askedPixels)),
    Math.max(LEAST_MARGIN_PIXELS, Math.round((sidePixels * MOST_MARGIN) / Math.sqrt(Math.max(1, islands)))),
  )

/**
 * Cuts surfaces into islands that lie flat and packs them all into one square.
 * @param sidePixels side of the texture that is meant
 * @param askedPixels room between islands, in those pixels
 * @throws Error when the library refuses the mesh
 *
 * @example const { surfaces } = await unwrapSurfaces([{ positions, normals, indices }], 1024, 8)
 */
export async function unwrapSurfaces(
  surfaces: readonly UnwrapInput[],
  sidePixels: number,
  askedPixels: number,
): Promise<UnwrapResult> {
  ready ??= watlas.Initialize()
  await ready
  const atlas = new (watlas.Atlas as unknown as new () => watlas.Atlas)()
  try {
    for (const { positions, normals, indices } of surfaces) {
      atlas.addMesh({
        vertexPositionData: positions,
        vertexCount: positions.length / 3,
        vertexPositionStride: 12,
        indexData: indices,
        indexCount: indices.length,
        ...(normals ? { vertexNormalData: normals, vertexNormalStride: 12 } : {}),
      })
    }
    // Both curvature and roundness are asked for, so that islands are few and not strips.
    atlas.computeCharts({
      normalDeviationWeight: 2,
      roundnessWeight: 0.1,
      straightnessWeight: 6,
      normalSeamWeight: 2,
    })
    // How many islands there are is known only once they were packed, however coarsely.
    pack(atlas, COUNTING_SIDE, 0)
    const marginPixels = marginBetween(atlas.chartCount, sidePixels, askedPixels)
    const grid = packingGrid(sidePixels)
    pack(atlas, grid, Math.max(1, Math.round((marginPixels * grid) / sidePixels)))
    if (atlas.atlasCount > 1) throw new Error('the islands do not fit one picture')
    const [width, height] = [atlas.width, atlas.height]
    const side = Math.max(width, height, 1)
    const results = surfaces.map((_, number) => readSurface(atlas.getMesh(number), side))
    return {
      surfaces: results,
      islands: atlas.chartCount,
      marginPixels,
      used: results.reduce((sum, each) => sum + uvArea(each.uvs, each.indices), 0),
    }
  } finally {
    atlas.delete()
  }
}

const COUNTING_SIDE = 64
const FINE_ENOUGH = 512

/**
 * Side of the grid that islands are laid out on: half as fine as the texture where that is fine enough, which takes a
 * third of the time and a fiftieth of the room.
 */
const packingGrid = (sidePixels: number): number =>
  Math.min(sidePixels, Math.max(FINE_ENOUGH, Math.min(sidePixels / 2, FINE_ENOUGH * 2)))

const pack = (atlas: watlas.Atlas, resolution: number, padding: number): void =>
  atlas.packCharts({ resolution, padding, bilinear: true, rotateCharts: true, rotateChartsToAxis: true })

function readSurface(mesh: watlas.Mesh, side: number): Unwrapped {
  const count = mesh.vertexCount
  const oldCorner = new Uint32Array(count)
  const uvs = new Float32Array(count * 2)
  for (let corner = 0; corner < count; corner++) {
    const { uv, xref } = mesh.getVertex(corner)
    oldCorner[corner] = xref
    uvs[corner * 2] = uv[0] / side
    uvs[corner * 2 + 1] = uv[1] / side
  }
  const indices = new Uint32Array(mesh.indexCount)
  mesh.getIndexArray(indices)
  return { oldCorner, indices, uvs }
}
