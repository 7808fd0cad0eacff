import type { Document } from '@gltf-transform/core'
import { identityMatrix, multiplyMatrices } from '../maths/axes.ts'
import { getRootExtras, setRootExtras } from './extras.ts'

/**
 * Remembers that the whole item was moved by a matrix (column-major), so that its source can be shown where it stands
 * now.
 *
 * @example rememberFit(document, scaleMatrix(0.5))
 */
export function rememberFit(document: Document, matrix: readonly number[]): void {
  const extras = getRootExtras(document.getRoot())
  setRootExtras(document.getRoot(), { ...extras, fit: multiplyMatrices(matrix, extras.fit ?? identityMatrix()) })
}
