import type { Api } from '../../api/client'

/** A file someone chose or dropped, with the folders it lay in. */
export type Brought = { file: File; path: string }

const folderOf = (relative: string) => relative.split('/').slice(0, -1).join('/')

/** Files from a field, with their sub-paths when a folder was chosen. */
export function fromField(files: FileList | null): Brought[] {
  return [...(files ?? [])].map((file) => ({ file, path: folderOf(file.webkitRelativePath) }))
}

/** Files and whole folders that were dropped. */
export async function fromDrop(data: DataTransfer): Promise<Brought[]> {
  // Entries must be taken up before the first wait: the list is emptied when the event ends.
  const entries = [...data.items].map((item) => item.webkitGetAsEntry()).filter((e) => e !== null)
  if (entries.length === 0) return fromField(data.files)
  const found: Brought[] = []
  for (const entry of entries) await walk(entry, '', found)
  return found
}

async function walk(entry: FileSystemEntry, path: string, found: Brought[]): Promise<void> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) =>
      (entry as FileSystemFileEntry).file(resolve, reject),
    )
    found.push({ file, path })
    return
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  const inside = path ? `${path}/${entry.name}` : entry.name
  // A reader hands out a part of a large folder at a time, and nothing when it is through.
  for (;;) {
    const part = await new Promise<FileSystemEntry[]>((resolve, reject) =>
      reader.readEntries(resolve, reject),
    )
    if (part.length === 0) return
    for (const one of part) await walk(one, inside, found)
  }
}

/** The most bytes a file of this name may have, as the server says it; the server judges by content, this only spares sending in vain. */
export function mostFor(name: string, takes: Api['WhatIsTaken']): number {
  const ending = /\.[^.]*$/.exec(name.toLowerCase())?.[0] ?? ''
  return takes.most[ending] ?? takes.otherwise
}

/** Without what computers put beside photographs for themselves. */
export function withoutLitter(files: readonly Brought[], takes: Api['WhatIsTaken']) {
  return files.filter(
    ({ file }) => !takes.litter.includes(file.name) && !file.name.startsWith(takes.litterBegins),
  )
}
