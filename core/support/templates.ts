/**
 * The pattern of a template, such as a rulebook's for names and paths.
 * @param words for each {word} of the template, the pattern of what may stand there
 *
 * @example templatePattern('hit-{shape}-{nn}', { shape: '(box|hull)', nn: '\\d\\d+' }).exec('hit-box-01')?.[1]
 */
export function templatePattern(template: string, words: Readonly<Record<string, string>>): RegExp {
  const literal = template.replace(/[.*+?^$()|[\]\\]/g, '\\$&')
  const filled = Object.entries(words).reduce((text, [word, pattern]) => text.replaceAll(`{${word}}`, pattern), literal)
  return new RegExp(`^${filled}$`)
}

/**
 * A template with its words filled in; what it has no word for stays as it is written.
 *
 * @example fillTemplate('{marker}_{nn}', { marker: 'start', nn: '01' }) // 'start_01'
 */
export const fillTemplate = (template: string, words: Readonly<Record<string, string>>): string =>
  template.replace(/\{(\w+)\}/g, (written, word: string) => (Object.hasOwn(words, word) ? words[word] : written))
