import type { Api } from '../../api/client'
import { w } from '../../words'
import { type Block, wordsIn } from './blocks/blocks'

/** What a line of the running order says of its block: a figure that matters, and words behind it. */
export function saysOf(
  block: Block,
  title: string,
  notes?: Api['BlockNotes'],
): { figure?: string; words: string } {
  const shows = notes?.shows
  switch (block.kind) {
    case 'heading':
      return { words: block.words || title }
    case 'text': {
      const n = wordsIn(block.words)
      return n === 0 ? { words: w.blocks.noWords } : { words: w.blocks.words(n) }
    }
    case 'photos':
      return shows === 0
        ? { words: w.blocks.nothing }
        : {
            ...(shows != null && { figure: w.blocks.count(shows) }),
            words: w.blocks.inLayout[block.layout.kind] ?? '',
          }
    case 'photo':
      return {
        words: block.photo || block.album ? block.line || w.one.presses[block.press] : w.blocks.noPhoto,
      }
    case 'video':
    case 'sound':
      return { words: shows === 0 ? w.blocks.nothing : block.line || w.blocks.playable }
    case 'files':
      return block.files.length === 0
        ? { words: w.blocks.nothing }
        : { figure: w.blocks.count(block.files.length), words: w.blocks.toSave }
    case 'contact':
      return { words: block.name || block.mail || block.phone || block.where || w.blocks.nothing }
    case 'index':
      return { words: shows == null ? '' : shows === 0 ? w.blocks.nothing : w.blocks.covers(shows) }
    case 'button':
      return { words: block.words || w.blocks.noWords }
    case 'divider':
      return { words: block.line ? w.blocks.line : w.blocks.space }
    case 'beside':
      return { words: block.blocks.map((b) => w.blocks.names[b.kind]).join(', ') || w.blocks.nothing }
  }
}
