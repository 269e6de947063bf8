import type { Api } from '../../api/client'

/** A file someone chose or dropped, with the folders it lay in. */
export type Brought = { file: File; path: string }

/** What computers put beside photographs for themselves. */
const litter = /^(\.DS_Store|Thumbs\.db|desktop\.ini|\._.*)$/

const folderOf = (relative: string) => relative.split('/').slice(0, -1).join('/')

/** Files from a field, with their sub-paths when a folder was chosen. */
export function fromField(files: FileList | null): Brought[] {
  return [...(files ?? [])]
    .filter((file) => !litter.test(file.name))
    .map((file) => ({ file, path: folderOf(file.webkitRelativePath) }))
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
    if (!litter.test(file.name)) found.push({ file, path })
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

type Limit = 'bytes' | 'soundBytes' | 'videoBytes' | 'documentBytes' | 'archiveBytes'

const endings: Record<string, Limit> = {
  jpg: 'bytes',
  jpeg: 'bytes',
  png: 'bytes',
  webp: 'bytes',
  tif: 'bytes',
  tiff: 'bytes',
  avif: 'bytes',
  gif: 'bytes',
  mp3: 'soundBytes',
  m4a: 'soundBytes',
  ogg: 'soundBytes',
  mp4: 'videoBytes',
  webm: 'videoBytes',
  pdf: 'documentBytes',
  zip: 'archiveBytes',
}

/** The most bytes a file of this name may have; the server judges by content, this only spares sending in vain. */
export function mostFor(name: string, limits: Api['IntakeLimits']): number {
  const kind = endings[name.toLowerCase().split('.').at(-1) ?? '']
  return kind ? limits[kind] : Math.max(limits.archiveBytes, limits.videoBytes)
}
