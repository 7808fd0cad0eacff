import { withArticle } from '../../support/wording.ts'
import type { FieldValue } from '../schema-catalogue.ts'
import { rangeWords } from './value-fault.ts'

/**
 * What a line may say, in a few words.
 *
 * @example valueWords({ sort: 'number', least: 1, most: 9, unit: '', whole: true }) // 'a whole number, 1 to 9'
 */
export function valueWords(value: FieldValue): string {
  switch (value.sort) {
    case 'text':
      return `a text of up to ${value.longest} letters`
    case 'number':
      return `a ${value.whole ? 'whole number' : 'number'}, ${rangeWords(value)}`
    case 'yes-no':
      return 'true or false'
    case 'choice':
      return `one of ${value.of.map(({ word }) => word).join(', ')}`
    case 'reference':
      return `the name of ${value.to.map((target) => (target === 'stock' ? 'something in stock' : withArticle(target))).join(' or ')}${value.ofKinds ? ` (${value.ofKinds.join(', ')})` : ''}`
    case 'list':
      return `${value.least > 0 ? `${value.least} to` : 'up to'} ${value.most}, each ${valueWords(value.of)}`
  }
}
