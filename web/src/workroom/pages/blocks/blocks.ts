import type { Api } from '../../../api/client'
import { nothing } from '../../themes/useTheme'

export type Block = Api['Block']
export type BlockKind = Block['kind']
export type BlockOf<Kind extends BlockKind> = Extract<Block, { kind: Kind }>

/** In the order in which they are offered. */
export const kinds = [
  'heading',
  'text',
  'photos',
  'photo',
  'video',
  'sound',
  'files',
  'index',
  'contact',
  'button',
  'divider',
  'beside',
] as const

export const usualGround: Api['Ground'] = {
  kind: 'none',
  colour: '#e8dfce',
  photo: null,
  veil: 35,
  words: null,
  height: 'content',
}
const usualFrame = { width: 'full', align: 'left', ground: usualGround, look: nothing } as const
/** What a gap is where one begins to say it; as in Core. */
export const usualGap = 6
const nowhere = { kind: 'address', thing: null, address: '' } as const

/** What the sizes of a new block of photos are, and what "as usual" means. */
const measures = (size: number, gap: number | null = null) => ({
  size,
  gap,
  tablet: null,
  phone: null,
  across: null,
})
export const usualMotion: Api['Motion'] = { pace: 'still', arrows: true, loops: false, shuffles: false }
export const usualLayout: Api['BlockLayout'] = {
  kind: 'rows',
  rows: measures(260),
  columns: measures(300),
  grid: measures(260),
  cells: { shape: null, whole: false },
  mosaic: measures(180),
  large: { by: 'rating', photos: [] },
  list: measures(240, 24),
  strip: measures(360),
  along: { height: 'pixels', motion: usualMotion },
  slides: { turn: 'fade', shape: null, fills: false, motion: usualMotion },
}

/** Every photo stands on every device. */
export const noneAbsent: Api['Absent'] = { phone: [], tablet: [], desktop: [] }

/** No filter bar. */
export const noBar: Api['BarSettings'] = {
  off: false,
  groups: [],
  all: true,
  allWords: '',
  align: 'left',
  counts: true,
  folded: [],
  still: [],
  search: { fields: [], hint: '' },
  orders: [],
}

/** How more photos come unless it is set otherwise; as in Core. */
export const usualMore: Api['More'] = { by: 'scrolling', step: 60 }

/** What a press on a photo does unless it is set otherwise; as in Core. */
export const usualPress: Api['PressSettings'] = {
  to: 'viewer',
  sign: 'never',
  drawing: '',
  words: ['title', 'caption', 'credit', 'licence'],
  save: 'nothing',
}

/** The words that stand with photos unless it is set otherwise; as in Core. */
export const usualWords: Api['FrameWords'] = {
  first: 'title',
  second: 'caption',
  desktop: {
    first: 'never',
    second: 'never',
    size: 'usual',
    align: 'left',
    colour: null,
    ground: null,
    dense: 72,
    padding: 8,
    whole: false,
  },
  tablet: null,
  phone: null,
}

/** What becomes of a photo that is touched unless it is set otherwise; as in Core. */
export const usualTouch: Api['FrameTouch'] = {
  desktop: {
    zoom: 'none',
    zoomBy: 6,
    tone: 'lighter',
    toneBy: 7,
    tint: 'none',
    tintColour: '#161616',
    tintBy: 50,
    border: 0,
    borderColour: '#fafafa',
    come: 'fade',
    entrance: 'none',
  },
  tablet: null,
  phone: null,
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
      return { kind, ...base, photo: null, album: null, line: '', press: 'open', link: nowhere, byLot: false }
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
          byLot: false,
        },
        layout: usualLayout,
        bar: noBar,
        absent: noneAbsent,
        more: usualMore,
        press: usualPress,
        words: usualWords,
        touch: usualTouch,
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
    case 'video':
      return { kind, ...base, from: 'file', file: null, address: '', shape: 'wide', still: null, line: '' }
    case 'sound':
      return { kind, ...base, file: null, line: '' }
    case 'files':
      return { kind, ...base, files: [] }
    case 'contact':
      return { kind, ...base, name: '', where: '', phone: '', mail: '' }
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
