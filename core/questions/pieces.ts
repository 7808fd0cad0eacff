import { boundsSize, partBounds, partsBounds } from '../item/measure.ts'
import { countMeshTriangles, listViewParts } from '../item/parts.ts'
import { formatCount, plural } from '../support/wording.ts'
import type { Asker } from './question.ts'

const DROP = 'drop-strays'
const JOIN = 'join-parts'
/** A part is small when its longest side is less than this share of the item's. */
const SMALL = 0.04
/** From so many small parts on it is worth asking. */
const LEAST = 4
/** With more parts than this, nobody names them one by one. */
const MOST = 4000

/**
 * What becomes of many small parts: kept as they are, made one with the rest, or left out.
 * @example const question = askPieces(about)
 */
export const askPieces: Asker = ({ document, strays, decidedSteps }) => {
  if (decidedSteps.includes(DROP) || decidedSteps.includes(JOIN)) return null
  const gone = new Set(strays.map(({ node }) => node))
  const parts = listViewParts(document).filter(({ node }) => !gone.has(node))
  if (parts.length <= LEAST || parts.length > MOST) return null
  const longest = Math.max(...boundsSize(partsBounds(parts)))
  const small = parts.filter((part) => Math.max(...boundsSize(partBounds(part))) < longest * SMALL)
  if (small.length < LEAST || small.length === parts.length) return null
  const triangles = small.reduce((sum, { mesh }) => sum + countMeshTriangles(mesh), 0)
  return {
    id: 'pieces',
    title: `${plural(small.length, 'small part')}: keep, join or leave out?`,
    why: `Each is shorter than ${SMALL * 100} % of the whole; every part is drawn by itself.`,
    decides: ['one-node'],
    answers: [
      { id: 'keep', label: 'Keep them', note: `${plural(parts.length, 'part')} in all`, picture: null, change: {} },
      {
        id: 'join',
        label: 'Join all into one',
        note: 'one part; what moves stays apart',
        picture: null,
        change: { step: { id: JOIN, parameters: { parts: parts.map(({ name }) => name) } } },
      },
      {
        id: 'leave-out',
        label: 'Leave them out',
        note: `saves ${formatCount(triangles)} triangles`,
        picture: null,
        change: { step: { id: DROP, parameters: { parts: small.map(({ name }) => name) } } },
      },
    ],
    chosen: 'keep',
  }
}
