import { describe, expect, it } from 'vitest'
import { readDropped, readPicked } from './file-drop'

const file = (name: string, text = name): File => new File([text], name)

/** A file of a drop, as browsers hand it over. */
const fileEntry = (name: string): FileSystemEntry =>
  ({
    name,
    isFile: true,
    isDirectory: false,
    file: (done: (file: File) => void) => done(file(name)),
  }) as unknown as FileSystemEntry

/** A folder of a drop: its reader gives its content in portions, and an empty one at the end. */
function folderEntry(name: string, ...portions: FileSystemEntry[][]): FileSystemEntry {
  return {
    name,
    isFile: false,
    isDirectory: true,
    createReader: () => {
      const left = [...portions]
      return { readEntries: (done: (entries: FileSystemEntry[]) => void) => done(left.shift() ?? []) }
    },
  } as unknown as FileSystemEntry
}

const drop = (...entries: (FileSystemEntry | File | null)[]): DataTransferItemList =>
  entries.map((entry) => ({
    webkitGetAsEntry: () => (entry instanceof File ? null : entry),
    getAsFile: () => (entry instanceof File ? entry : null),
  })) as unknown as DataTransferItemList

describe('what is dropped', () => {
  it('is several files with their bytes', async () => {
    const files = await readDropped(drop(fileEntry('gate.obj'), fileEntry('gate.mtl')))
    expect(files.map((each) => each.path)).toEqual(['gate.obj', 'gate.mtl'])
    expect(new TextDecoder().decode(files[0].bytes)).toBe('gate.obj')
  })

  it('is walked through folders, however their content comes', async () => {
    const maps = folderEntry('maps', [fileEntry('wood.png')], [fileEntry('stone.png')])
    const files = await readDropped(drop(folderEntry('gate', [fileEntry('gate.obj'), maps])))
    expect(files.map((each) => each.path)).toEqual(['gate/gate.obj', 'gate/maps/wood.png', 'gate/maps/stone.png'])
  })

  it('may have no entry, only a file', async () => {
    expect((await readDropped(drop(file('a.glb')))).map((each) => each.path)).toEqual(['a.glb'])
  })

  it('may be no file at all, such as a piece of text', async () => {
    expect(await readDropped(drop(null))).toEqual([])
  })

  it('is bounded', async () => {
    const many = Array.from({ length: 6000 }, (_, index) => fileEntry(`${index}.png`))
    expect(await readDropped(drop(folderEntry('all', many)))).toHaveLength(5000)
  })
})

describe('what is picked', () => {
  it('is read with its name', async () => {
    const [picked] = await readPicked([file('gate.obj', 'v 0 0 0')])
    expect(picked.path).toBe('gate.obj')
    expect(new TextDecoder().decode(picked.bytes)).toBe('v 0 0 0')
  })
})
