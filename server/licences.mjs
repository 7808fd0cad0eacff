// The licences of everything that is shipped, from what is installed.
import { existsSync, readFileSync, readdirSync } from 'node:fs'
import { join } from 'node:path'

const LICENCE = /^(?:licen[cs]e|copying|ofl|notice)(?:[.-].*)?$/i
const NAME = /^.*node_modules\//

/** The wording of licences that packages name without bringing it. */
const standard = {
  MIT: (holder) =>
    `Copyright ${holder}\n\nPermission is hereby granted, free of charge, to any person obtaining a copy of this software and associated documentation files (the "Software"), to deal in the Software without restriction, including without limitation the rights to use, copy, modify, merge, publish, distribute, sublicense, and/or sell copies of the Software, and to permit persons to whom the Software is furnished to do so, subject to the following conditions:\n\nThe above copyright notice and this permission notice shall be included in all copies or substantial portions of the Software.\n\nTHE SOFTWARE IS PROVIDED "AS IS", WITHOUT WARRANTY OF ANY KIND, EXPRESS OR IMPLIED, INCLUDING BUT NOT LIMITED TO THE WARRANTIES OF MERCHANTABILITY, FITNESS FOR A PARTICULAR PURPOSE AND NONINFRINGEMENT. IN NO EVENT SHALL THE AUTHORS OR COPYRIGHT HOLDERS BE LIABLE FOR ANY CLAIM, DAMAGES OR OTHER LIABILITY, WHETHER IN AN ACTION OF CONTRACT, TORT OR OTHERWISE, ARISING FROM, OUT OF OR IN CONNECTION WITH THE SOFTWARE OR THE USE OR OTHER DEALINGS IN THE SOFTWARE.`,
  ISC: (holder) =>
    `Copyright ${holder}\n\nPermission to use, copy, modify, and/or distribute this software for any purpose with or without fee is hereby granted, provided that the above copyright notice and this permission notice appear in all copies.\n\nTHE SOFTWARE IS PROVIDED "AS IS" AND THE AUTHOR DISCLAIMS ALL WARRANTIES WITH REGARD TO THIS SOFTWARE INCLUDING ALL IMPLIED WARRANTIES OF MERCHANTABILITY AND FITNESS. IN NO EVENT SHALL THE AUTHOR BE LIABLE FOR ANY SPECIAL, DIRECT, INDIRECT, OR CONSEQUENTIAL DAMAGES OR ANY DAMAGES WHATSOEVER RESULTING FROM LOSS OF USE, DATA OR PROFITS, WHETHER IN AN ACTION OF CONTRACT, NEGLIGENCE OR OTHER TORTIOUS ACTION, ARISING OUT OF OR IN CONNECTION WITH THE USE OR PERFORMANCE OF THIS SOFTWARE.`,
}

const nameOf = (person) => (typeof person === 'string' ? person : person?.name)

/**
 * @param {string} root the folder with the lock file and what it installed
 * @returns {{ name: string, version: string, licence: string, text: string }[]} by name; what only tests and builds use
 *   is not shipped and not in it
 */
export function licences(root) {
  const { packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'))
  const found = new Map()
  for (const [path, { dev, devOptional, version, license }] of Object.entries(packages)) {
    const folder = join(root, path)
    if (path === '' || dev || devOptional || !existsSync(folder)) continue
    const facts = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'))
    const name = path.replace(NAME, '')
    const licence = license ?? facts.license ?? 'not said'
    const texts = readdirSync(folder)
      .filter((file) => LICENCE.test(file))
      .map((file) => readFileSync(join(folder, file), 'utf8').trim())
    const holder = nameOf(facts.author) ?? `the authors of ${name}`
    found.set(`${name} ${version}`, {
      name,
      version,
      licence,
      text: texts.join('\n\n') || (standard[licence]?.(holder) ?? ''),
    })
  }
  const all = [...found.values()].sort((a, b) => (a.name < b.name ? -1 : 1))
  // A licence whose text is the same for everybody is taken from a package that brings it.
  const textOf = (licence) => all.find((each) => each.licence === licence && each.text !== '')?.text ?? ''
  return all.map((each) => (each.text === '' ? { ...each, text: textOf(each.licence) } : each))
}
