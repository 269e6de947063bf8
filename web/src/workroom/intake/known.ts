import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import type { Brought } from './brought'

/** As many files as are asked about at once. */
const atOnce = 2000
/** The pieces that a mark is made of, bytes; the server's `Storage.PieceBytes`. */
const piece = 4 << 20

/** What the server knows of files one wants to send. */
export type Known = {
  /** Places of those that are there already. */
  here: ReadonlySet<number>
  /** Where the upload of a file stands that was cut off. */
  urlOf: (file: Brought) => string | undefined
}

/** What two files of one name, folder and length are told apart by at a glance. */
const nameOf = (path: string, name: string, bytes: number, changed: number | null) =>
  `${path}/${name}/${bytes}/${changed ?? ''}`

/**
 * Asks which of these files are there already, and which stopped where. A file of which another with the same name, folder and
 * length is there is told apart by its content.
 */
export async function known(into: string, files: readonly Brought[]): Promise<Known> {
  const here = new Set<number>()
  const open = new Map<string, string>()
  for (let from = 0; from < files.length; from += atOnce) {
    const some = files.slice(from, from + atOnce)
    const said = await ask(into, some.map(asKnown))
    for (const n of said.here) here.add(from + n)
    for (const o of said.open)
      open.set(nameOf(o.path, o.fileName, o.bytes, o.changed), `/api/uploads/${o.id}`)
    for (const n of said.perhaps) {
      const file = some[n]
      if (file && (await isHere(into, file))) here.add(from + n)
    }
  }
  return {
    here,
    urlOf: ({ file, path }) => open.get(nameOf(path, file.name, file.size, file.lastModified)),
  }
}

/** Whether the very bytes of a file are there, whatever else is called so. */
export async function isHere(into: string, file: Brought) {
  const said = await ask(into, [{ ...asKnown(file), mark: await markOf(file.file) }])
  return said.here.length > 0
}

function asKnown({ file, path }: Brought): Api['KnownFile'] {
  return { fileName: file.name, path, bytes: file.size, changed: file.lastModified }
}

function ask(intake: string, files: Api['KnownFile'][]) {
  return body(
    api.POST('/api/intakes/{intake}/here', { params: { path: { intake } }, body: { files } }),
    w.errors.away,
  )
}

/** A file's content in sixty-four digits: SHA-256 of the SHA-256s of its pieces, one piece in memory at a time. */
async function markOf(file: File) {
  const pieces: Uint8Array[] = []
  for (let from = 0; from < file.size; from += piece)
    pieces.push(
      new Uint8Array(
        await crypto.subtle.digest('SHA-256', await file.slice(from, from + piece).arrayBuffer()),
      ),
    )
  const all = new Uint8Array(pieces.length * 32)
  for (const [n, hash] of pieces.entries()) all.set(hash, n * 32)
  const mark = new Uint8Array(await crypto.subtle.digest('SHA-256', all))
  return Array.from(mark, (b) => b.toString(16).padStart(2, '0')).join('')
}
