import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ByteReader, decodeText } from './byte-reader.ts'
import { PlainError } from './plain-error.ts'
import { numberAt, WordScanner } from './word-scanner.ts'
import { allOf, firstOf, idOfUrl, numbersOf, parseXml, wordsOf } from './xml.ts'

const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text)
const numberOf = (text: string): number => numberAt(bytesOf(text), 0, text.length)

/** All words of a text, line by line. */
function linesOf(text: string): string[][] {
  const scanner = new WordScanner(bytesOf(text))
  const lines: string[][] = []
  while (!scanner.atEnd) {
    const words: string[] = []
    while (scanner.next()) words.push(scanner.word())
    lines.push(words)
    scanner.skipLine()
  }
  return lines
}

describe('a number in a text file', () => {
  it.each([
    '0',
    '-0',
    '1',
    '+1',
    '-12.5',
    '.5',
    '5.',
    '-.25',
    '1e5',
    '1.5E-3',
    '0.1',
    '123456789012345',
    '0.123456789012345',
    '1234567890.12345678901234567890',
    '179769313486231570000',
    '4.9e-324',
  ])('is read as exactly as by the language: %s', (text) => {
    expect(Object.is(numberOf(text), Number(text))).toBe(true)
  })

  it.each(['', '.', '-', '+', '--1', '1.2.3', '1,5', 'nan', '1e', 'ten'])('is none where it is “%s”', (text) => {
    expect(numberOf(text)).toBeNaN()
  })

  it('is read as exactly whatever it is', () => {
    fc.assert(
      fc.property(
        fc.double({ noNaN: true, noDefaultInfinity: true }),
        fc.integer({ min: 0, max: 12 }),
        (value, digits) => {
          for (const text of [String(value), value.toFixed(digits), value.toExponential(digits)])
            expect(Object.is(numberOf(text), Number(text)), text).toBe(true)
        },
      ),
    )
  })

  it('of a million digits ends', () => {
    expect(Number.isFinite(numberOf('1'.repeat(1_000_000)))).toBe(false)
  })
})

describe('words of a text file', () => {
  it('are parted by spaces and tabs, whatever ends the lines', () => {
    expect(linesOf('v 1\t2  3\r\nf 1/2/3 4\n\n  end  ')).toEqual([
      ['v', '1', '2', '3'],
      ['f', '1/2/3', '4'],
      [],
      ['end'],
    ])
  })

  it('go on in the next line after a backslash, also within a word’s end', () => {
    expect(linesOf('f 1 2 \\\n3 4\nf 5\\\r\n 6')).toEqual([
      ['f', '1', '2', '3', '4'],
      ['f', '5', '6'],
    ])
  })

  it('keep a backslash that ends no line: it is part of a path', () => {
    expect(linesOf('map_Kd C:\\maps\\oak.png')).toEqual([['map_Kd', 'C:\\maps\\oak.png']])
  })

  it('count their lines, continued ones too', () => {
    const scanner = new WordScanner(bytesOf('a \\\nb\nc\n'))
    scanner.skipLine()
    expect(scanner.lineNumber).toBe(3)
    expect(scanner.next() && scanner.word()).toBe('c')
  })

  it('are cut where a message shows the line', () => {
    const scanner = new WordScanner(bytesOf(`v ${'9'.repeat(200)}\n`))
    scanner.next()
    expect(scanner.line().length).toBeLessThanOrEqual(60)
    expect(scanner.rest()).toBe('9'.repeat(200))
  })

  it('are all met, and once, in any text', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.stringMatching(/^[!-[\]-~]{1,6}$/), { maxLength: 5 }), { maxLength: 6 }),
        (lines) => {
          const text = lines.map((words) => words.join(' ')).join('\n')
          expect(linesOf(text).flat()).toEqual(lines.flat())
        },
      ),
    )
  })

  it('tell how far one is', () => {
    const scanner = new WordScanner(bytesOf('ab\ncd\n'))
    expect(scanner.fraction).toBe(0)
    scanner.skipLine()
    expect(scanner.fraction).toBe(0.5)
    expect(new WordScanner(new Uint8Array(0)).fraction).toBe(1)
  })
})

describe('a reader of bytes', () => {
  const cutOff = (): Error => new Error('it ends early')

  it('reads little-endian numbers one after another', () => {
    const bytes = new Uint8Array(31)
    const view = new DataView(bytes.buffer)
    view.setUint8(0, 250)
    view.setUint16(1, 65_000, true)
    view.setInt32(3, -7, true)
    view.setFloat32(7, 1.5, true)
    view.setFloat64(11, Math.PI, true)
    view.setBigUint64(19, 2n ** 40n, true)
    view.setInt16(27, -3, true)
    const reader = new ByteReader(bytes, cutOff)
    expect([reader.uint8(), reader.uint16(), reader.int32(), reader.float32(), reader.float64()]).toEqual([
      250,
      65_000,
      -7,
      1.5,
      Math.PI,
    ])
    expect([reader.uint64(), reader.int16(), reader.left]).toEqual([2 ** 40, -3, 2])
  })

  it('never reads past its end, nor past the end of a piece', () => {
    const reader = new ByteReader(new Uint8Array(8), cutOff)
    const piece = reader.slice(4)
    piece.uint16()
    expect(() => piece.uint32()).toThrow('it ends early')
    // What failed was not stepped over.
    expect(piece.left).toBe(2)
    expect(reader.uint32()).toBe(0)
    expect(() => reader.uint8()).toThrow('it ends early')
  })

  it.each([-1, NaN, 1e12])('takes no length of %s', (length) => {
    expect(() => new ByteReader(new Uint8Array(8), cutOff).take(length)).toThrow('it ends early')
  })

  it('begins nowhere outside of the file', () => {
    expect(() => new ByteReader(new Uint8Array(8), cutOff, 9)).toThrow('it ends early')
    expect(() => new ByteReader(new Uint8Array(8), cutOff, 0, 9)).toThrow('it ends early')
  })

  it('reads the bytes of a view at their place in it', () => {
    const inside = new Uint8Array([9, 9, 1, 0, 2, 0]).subarray(2)
    const reader = new ByteReader(inside, cutOff)
    expect([reader.uint16(), reader.uint16()]).toEqual([1, 2])
  })

  it('reads a text to its zero, and gives up where none comes', () => {
    const reader = new ByteReader(bytesOf('oak\0rest'), cutOff)
    expect(reader.textToZero(10)).toBe('oak')
    expect(() => reader.textToZero(10)).toThrow('it ends early')
    expect(() => new ByteReader(bytesOf('a long name\0'), cutOff).textToZero(4)).toThrow('it ends early')
  })
})

describe('a text of unknown writing', () => {
  it('is UTF-8, or what older programs wrote', () => {
    expect(decodeText(bytesOf('Brücke'))).toBe('Brücke')
    expect(decodeText(new Uint8Array([66, 114, 0xfc, 99, 107, 101]))).toBe('Brücke')
  })
})

describe('XML', () => {
  const tree = parseXml(
    '<?xml version="1.0"?><x:scene xmlns:x="u"><node id="a"><translate>1 2\n3</translate></node>' +
      '<node id="b"><![CDATA[two words]]></node></x:scene>',
    'scene.dae',
  )

  it('is a tree without the prefixes of names', () => {
    expect(tree.name).toBe('scene')
    expect(allOf(tree, 'node').map(({ attributes }) => attributes['id'])).toEqual(['a', 'b'])
    expect([...numbersOf(firstOf(tree, 'node', 'translate'))]).toEqual([1, 2, 3])
    expect(wordsOf(allOf(tree, 'node')[1])).toEqual(['two', 'words'])
    expect(firstOf(tree, 'node', 'rotate')).toBeUndefined()
    expect(numbersOf(undefined)).toHaveLength(0)
  })

  it('has numbers with the comma of some countries', () => {
    expect([...numbersOf(parseXml('<a>1,5 -2,25 3</a>', 'a.dae'))]).toEqual([1.5, -2.25, 3])
  })

  it('names the element that a link means', () => {
    expect(idOfUrl('#oak')).toBe('oak')
    expect(idOfUrl('file.dae#oak')).toBe('oak')
    expect(idOfUrl(undefined)).toBe('')
  })

  it.each([
    ['<a><b></a>', 'its XML is broken'],
    ['', 'its XML is broken'],
    ['just words', 'its XML is broken'],
    ['<a>&bomb;</a>', 'its XML is broken'],
    [`${'<a>'.repeat(600)}${'</a>'.repeat(600)}`, 'levels'],
  ])('that is none gets a sentence with its line: %.20s', (text, what) => {
    let told: unknown
    try {
      parseXml(text, 'gate.dae')
    } catch (error) {
      told = error
    }
    expect(told).toBeInstanceOf(PlainError)
    expect((told as PlainError).message).toContain('gate.dae')
    expect((told as PlainError).message).toContain(what)
    expect((told as PlainError).message).toMatch(/line \d+/)
  })

  it('does not unfold what stands for other things a billion times', () => {
    const bomb =
      '<!DOCTYPE a [<!ENTITY b "bbbbbbbbbb"><!ENTITY c "&b;&b;&b;&b;&b;&b;&b;&b;"><!ENTITY d "&c;&c;&c;&c;&c;&c;">]><a>&d;</a>'
    expect(() => parseXml(bomb, 'gate.dae')).toThrow(PlainError)
  })

  it('is read piece by piece, and says how far it is', () => {
    const fractions: number[] = []
    const text = `<a>${'<b>1 2 3</b>'.repeat(200_000)}</a>`
    expect(parseXml(text, 'gate.dae', (fraction) => fractions.push(fraction)).children).toHaveLength(200_000)
    expect(fractions.length).toBeGreaterThan(1)
    expect(fractions).toEqual([...fractions].sort((a, b) => a - b))
  })
})
