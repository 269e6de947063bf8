import { useRef, useState } from 'react'
import { flat } from '../blocks/blocks'
import type { PageDraft } from '../usePageDraft'
import { typeAhead } from './early'
import type { Editor, Verb } from './editor'

/** Typing on the page itself: which block, and what can be done to the words marked there. */
export type Typing = ReturnType<typeof useTyping>

/** Lets headings and texts be typed on the page in its frame. The editor is fetched when one begins to type. */
export function useTyping(draft: PageDraft, page: () => Document | null) {
  const [block, setBlock] = useState<string | null>(null)
  // What is marked changes what the verbs say of themselves.
  const [, setMarks] = useState(0)
  const editor = useRef<Editor | null>(null)
  /** A block that is to be typed in as soon as it stands on the page. */
  const wanted = useRef<string | null>(null)
  /** Ends the typing ahead of that. */
  const ahead = useRef<(() => string) | null>(null)
  const latest = useRef(draft)
  latest.current = draft

  function typedAhead() {
    const words = ahead.current?.() ?? ''
    ahead.current = null
    return words
  }

  /** What was typed ahead stands in its block, even where its place has not come. */
  function keepAhead() {
    const words = typedAhead()
    const now = flat(latest.current.blocks).find((b) => b.id === wanted.current)
    if (words && now?.kind === 'text') latest.current.say({ ...now, words: now.words + words })
  }

  function end() {
    keepAhead()
    wanted.current = null
    editor.current?.end()
    editor.current = null
    setBlock(null)
  }

  async function begin(id: string) {
    if (editor.current) end()
    if (wanted.current !== id) keepAhead()
    wanted.current = id
    ahead.current ??= typeAhead({ late: keepAhead, left: end })
    const place = page()?.querySelector<HTMLElement>(`[data-block="${id}"]`)
    const typed = flat(latest.current.blocks).find((b) => b.id === id)
    // Where it is not there yet, it is begun again when the page has been loaded.
    if (!place || (typed?.kind !== 'text' && typed?.kind !== 'heading')) return
    const { editLine, editText } = await import('./editor')
    if (wanted.current !== id || !place.isConnected) return
    wanted.current = null
    setBlock(id)
    const say = (words: string) => {
      const now = flat(latest.current.blocks).find((b) => b.id === id)
      if (now?.kind === 'text' || now?.kind === 'heading') latest.current.say({ ...now, words })
    }
    if (typed.kind === 'text') {
      editor.current = editText(place, typed.words, {
        onType: say,
        onMark: () => setMarks((n) => n + 1),
        onEnd: end,
      })
      editor.current.type(typedAhead())
      return
    }
    typedAhead()
    const line = place.querySelector<HTMLElement>('h1, h2, h3')
    if (!line) return
    const title = latest.current.edit.draft.title
    editor.current = editLine(line, typed.words || title, {
      // What says the page's title is the page's title.
      onType: (words) => (typed.words ? say(words) : latest.current.changeDraft({ title: words })),
      onMark: () => {},
      onEnd: end,
    })
  }

  return {
    block,
    begin: (id: string) => void begin(id),
    end,
    /** The page has been loaded: what was to be typed may stand there now. */
    loaded: () => {
      if (wanted.current) void begin(wanted.current)
    },
    act: (verb: Exclude<Verb, 'link'>) => editor.current?.act(verb),
    link: (to: string | null) => editor.current?.link(to),
    on: (verb: Verb) => editor.current?.on(verb) ?? false,
    focus: () => editor.current?.focus(),
  }
}
