import { findStrays } from '../../item/strays.ts'
import type { RuleFamily } from '../rule.ts'

/** What came along and is not part of the model. The game ignores it, so these are notes. */
export const strayRules: RuleFamily = {
  id: 'strays',
  ofMeshes: true,
  check: ({ document, kind }) =>
    findStrays(document)
      .filter(
        (stray) =>
          !(stray.what === 'lamp' && kind.mostLights > 0) &&
          !(stray.what === 'empty' && (kind.attachPoints || kind.markers)),
      )
      .map((stray) => ({
        rule: 'stray',
        severity: 'note',
        stage: 'intake',
        title: 'Not part of the model',
        where: stray.name,
        place: { parts: [stray.name], bounds: null, spots: [], texture: null },
        value: stray.what,
        limit: 'none',
        message:
          stray.what === 'ground shade'
            ? `${stray.name} lies flat and dark under the model`
            : stray.detail !== ''
              ? `${stray.name} ${stray.detail}`
              : `${stray.name} is a ${stray.what} that came along`,
        why: 'It belongs to the scene it was made in.',
        mend: { step: 'drop-strays', label: 'Drop strays', parameters: {} },
      })),
}
