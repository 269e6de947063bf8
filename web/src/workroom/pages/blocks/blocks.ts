import type { Api } from '../../../api/client'

export type Block = Api['Block']
export type BlockKind = Block['kind']
export type BlockOf<Kind extends BlockKind> = Extract<Block, { kind: Kind }>

/** In the order in which they are offered. */
export const kinds = ['heading', 'text', 'photos', 'photo', 'index', 'button', 'divider', 'beside'] as const

const usualFrame = { width: 'full', align: 'left' } as const
const nowhere = { kind: 'address', thing: null, address: '' } as const

/** What the sizes of a new block of photos are, and what "as usual" means. */
export const usualLayout: Api['BlockLayout'] = {
  kind: 'rows',
  rows: { size: 260, gap: 6, tablet: null, phone: null },
  columns: { size: 300, gap: 6, tablet: null, phone: null },
  grid: { size: 260, gap: 6, tablet: null, phone: null },
}

const newId = () => crypto.randomUUID()

/** A new block as it begins. */
export function make(kind: BlockKind): Block {
  const base = { id: newId(), frame: usualFrame }
  switch (kind) {
    case 'heading':
      return { kind, ...base, words: '', size: 'middle' }
    case 'text':
      return { kind, ...base, words: '' }
    case 'photo':
      return { kind, ...base, photo: null, album: null, line: '', press: 'open', link: nowhere }
    case 'photos':
      return {
        kind,
        ...base,
        source: {
          kind: 'albums',
          albums: [],
          photos: [],
          category: null,
          tag: null,
          sort: null,
          reversed: false,
          most: null,
        },
        layout: usualLayout,
        bar: { categories: [], tags: [] },
      }
    case 'index':
      return {
        kind,
        ...base,
        of: 'categories',
        category: null,
        beneath: true,
        albums: [],
        sort: 'newest',
        most: null,
        across: 3,
        dates: true,
        counts: true,
        descriptions: false,
      }
    case 'button':
      return { kind, ...base, words: '', link: nowhere }
    case 'divider':
      return { kind, ...base, line: true }
    case 'beside':
      return { kind, ...base, blocks: [make('text'), make('photo')] }
  }
}

/** The same again under a name of its own. */
export function double(block: Block): Block {
  return block.kind === 'beside'
    ? { ...block, id: newId(), blocks: block.blocks.map(double) }
    : { ...block, id: newId() }
}

/** All blocks, those side by side each by itself. */
export const flat = (blocks: readonly Block[]): Block[] =>
  blocks.flatMap((b) => (b.kind === 'beside' ? [b, ...b.blocks] : [b]))

/** The blocks with one in place of what it was, wherever it stands; null takes it away. */
export function replace(blocks: readonly Block[], id: string, by: Block | null): Block[] {
  return blocks.flatMap((b): Block[] => {
    if (b.id === id) return by ? [by] : []
    if (b.kind !== 'beside' || !b.blocks.some((inner) => inner.id === id)) return [b]
    return [{ ...b, blocks: replace(b.blocks, id, by) }]
  })
}

/** The blocks with another behind one of them, where it stands; at the end where that is not there. */
export function insert(blocks: readonly Block[], behind: string | null, added: Block): Block[] {
  const at = blocks.findIndex((b) => b.id === behind)
  if (at >= 0) return [...blocks.slice(0, at + 1), added, ...blocks.slice(at + 1)]
  const within = blocks.findIndex((b) => b.kind === 'beside' && b.blocks.some((i) => i.id === behind))
  if (within < 0) return [...blocks, added]
  // What stands side by side stays two or three: the new one goes beneath them.
  return [...blocks.slice(0, within + 1), added, ...blocks.slice(within + 1)]
}

/** The blocks with one a step further up or down among those it stands with. */
export function step(blocks: readonly Block[], id: string, by: -1 | 1): Block[] {
  const at = blocks.findIndex((b) => b.id === id)
  if (at < 0) return blocks.map((b) => (b.kind === 'beside' ? { ...b, blocks: step(b.blocks, id, by) } : b))
  return moved(blocks, at, at + by)
}

/** The blocks with one of them elsewhere. */
export function moved(blocks: readonly Block[], from: number, to: number): Block[] {
  const next = [...blocks]
  const [one] = next.splice(from, 1)
  if (!one || to < 0 || to >= blocks.length) return [...blocks]
  next.splice(to, 0, one)
  return next
}

/** How many words a text has. */
export const wordsIn = (text: string) => text.split(/\s+/).filter(Boolean).length
