import type { BroughtFile } from '../workers/clients'

/** Files of a drop or a picker with their bytes. Folders of a drop are walked, up to a bound. */
export async function readDropped(items: DataTransferItemList): Promise<BroughtFile[]> {
  // Both have to be asked for before the first wait: afterwards the drop is empty.
  const dropped = [...items].map((item) => ({ entry: item.webkitGetAsEntry(), file: item.getAsFile() }))
  const files: { path: string; file: File }[] = []
  for (const { entry, file } of dropped) {
    if (entry) await walk(entry, '', files)
    else if (file) files.push({ path: file.name, file })
  }
  return Promise.all(files.map(async ({ path, file }) => ({ path, bytes: new Uint8Array(await file.arrayBuffer()) })))
}

export async function readPicked(files: FileList | readonly File[]): Promise<BroughtFile[]> {
  return Promise.all(
    [...files].map(async (file) => ({
      path: file.webkitRelativePath || file.name,
      bytes: new Uint8Array(await file.arrayBuffer()),
    })),
  )
}

const MOST_FILES = 5000

async function walk(entry: FileSystemEntry, folder: string, files: { path: string; file: File }[]): Promise<void> {
  if (files.length >= MOST_FILES) return
  const path = folder === '' ? entry.name : `${folder}/${entry.name}`
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject))
    files.push({ path, file })
    return
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  for (;;) {
    const children = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject))
    if (children.length === 0) return
    for (const child of children) await walk(child, path, files)
  }
}
