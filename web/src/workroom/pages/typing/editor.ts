import { baseKeymap, setBlockType, splitBlock, toggleMark, wrapIn } from 'prosemirror-commands'
import { history, redo, undo } from 'prosemirror-history'
import { inputRules, textblockTypeInputRule, wrappingInputRule } from 'prosemirror-inputrules'
import { keymap } from 'prosemirror-keymap'
import type { Schema } from 'prosemirror-model'
import { liftListItem, sinkListItem, splitListItem, wrapInList } from 'prosemirror-schema-list'
import { type Command, EditorState, Plugin } from 'prosemirror-state'
import { EditorView } from 'prosemirror-view'
import { lineSchema, read, textSchema, write } from './schema'

/** What can be done to the words that are marked. */
export type Verb = 'strong' | 'slanted' | 'subheading' | 'list' | 'numbered' | 'quote' | 'link'

/** Words being typed where they stand on the page. */
export type Editor = {
  act: (verb: Exclude<Verb, 'link'>) => void
  link: (to: string | null) => void
  on: (verb: Verb) => boolean
  /** Writes words where the cursor stands, a paragraph a line. */
  type: (words: string) => void
  focus: () => void
  end: () => void
}

const { strong, em, link } = textSchema.marks
const { heading, paragraph, bullet_list, ordered_list, blockquote, list_item } = textSchema.nodes
if (
  !strong ||
  !em ||
  !link ||
  !heading ||
  !paragraph ||
  !bullet_list ||
  !ordered_list ||
  !blockquote ||
  !list_item
)
  throw new Error('The schema of texts lacks a part.')
const parts = { strong, em, link, heading, paragraph, bullet_list, ordered_list, blockquote, list_item }

const within = (state: EditorState, name: string) => {
  const { $from } = state.selection
  for (let depth = $from.depth; depth > 0; depth--) if ($from.node(depth).type.name === name) return true
  return false
}

const hasMark = (state: EditorState, type: typeof parts.strong) => {
  const { from, $from, to, empty } = state.selection
  return empty
    ? type.isInSet(state.storedMarks ?? $from.marks()) !== undefined
    : state.doc.rangeHasMark(from, to, type)
}

const commands: Record<Exclude<Verb, 'link'>, Command> = {
  strong: toggleMark(parts.strong),
  slanted: toggleMark(parts.em),
  subheading: (state, dispatch) =>
    within(state, 'heading')
      ? setBlockType(parts.paragraph)(state, dispatch)
      : setBlockType(parts.heading, { level: 2 })(state, dispatch),
  list: (state, dispatch) =>
    within(state, 'bullet_list')
      ? liftListItem(parts.list_item)(state, dispatch)
      : wrapInList(parts.bullet_list)(state, dispatch),
  numbered: (state, dispatch) =>
    within(state, 'ordered_list')
      ? liftListItem(parts.list_item)(state, dispatch)
      : wrapInList(parts.ordered_list)(state, dispatch),
  quote: wrapIn(parts.blockquote),
}

const on: Record<Verb, (state: EditorState) => boolean> = {
  strong: (state) => hasMark(state, parts.strong),
  slanted: (state) => hasMark(state, parts.em),
  link: (state) => hasMark(state, parts.link),
  subheading: (state) => within(state, 'heading'),
  list: (state) => within(state, 'bullet_list'),
  numbered: (state) => within(state, 'ordered_list'),
  quote: (state) => within(state, 'blockquote'),
}

type Listeners = {
  onType: (words: string) => void
  /** What is marked, or what it is, has changed. */
  onMark: () => void
  onEnd: () => void
}

/** Lets a text be typed on its element of the page. */
export function editText(element: HTMLElement, words: string, listeners: Listeners): Editor {
  const doc = read(words)
  return edit(element, textSchema, doc, listeners, write, [
    inputRules({
      rules: [
        wrappingInputRule(/^\s*[-*]\s$/, parts.bullet_list),
        wrappingInputRule(/^1\.\s$/, parts.ordered_list),
        wrappingInputRule(/^>\s$/, parts.blockquote),
        textblockTypeInputRule(/^##\s$/, parts.heading, { level: 2 }),
      ],
    }),
    keymap({
      'Mod-b': commands.strong,
      'Mod-i': commands.slanted,
      Enter: splitListItem(parts.list_item),
      Tab: sinkListItem(parts.list_item),
      'Shift-Tab': liftListItem(parts.list_item),
    }),
  ])
}

/** Lets a heading be typed on its element of the page. */
export function editLine(element: HTMLElement, words: string, listeners: Listeners): Editor {
  const doc = lineSchema.node('doc', null, words ? [lineSchema.text(words)] : [])
  return edit(element, lineSchema, doc, listeners, (d) => d.textContent, [
    keymap({
      Enter: () => {
        listeners.onEnd()
        return true
      },
    }),
  ])
}

function edit(
  element: HTMLElement,
  schema: Schema,
  doc: EditorState['doc'],
  { onType, onMark, onEnd }: Listeners,
  said: (doc: EditorState['doc']) => string,
  plugins: Plugin[],
): Editor {
  const before = element.innerHTML
  element.replaceChildren()
  element.style.whiteSpace = 'pre-wrap'
  const view = new EditorView(
    { mount: element },
    {
      state: EditorState.create({
        schema,
        doc,
        plugins: [
          ...plugins,
          keymap({
            'Mod-z': undo,
            'Mod-y': redo,
            'Shift-Mod-z': redo,
            Escape: () => {
              onEnd()
              return true
            },
          }),
          keymap(baseKeymap),
          history(),
          new Plugin({
            props: { attributes: { 'aria-multiline': String(schema === textSchema), role: 'textbox' } },
          }),
        ],
      }),
      handleDOMEvents: {
        blur: (_, event) => {
          // The verbs beside the page take the keyboard for a moment only.
          if (event.relatedTarget) onEnd()
          return false
        },
      },
      dispatchTransaction(transaction) {
        view.updateState(view.state.apply(transaction))
        if (transaction.docChanged) onType(said(view.state.doc))
        onMark()
      },
    },
  )
  view.focus()
  const run = (command: Command) => {
    command(view.state, view.dispatch, view)
    view.focus()
  }
  return {
    act: (verb) => run(commands[verb]),
    link: (to) =>
      run((state, dispatch) => {
        const { from, to: end, empty } = state.selection
        if (to === null) {
          // All of the link that the cursor stands in.
          let [a, b] = [from, end]
          state.doc.nodesBetween(Math.max(0, from - 1), end, (node, at) => {
            if (node.isText && parts.link.isInSet(node.marks))
              [a, b] = [Math.min(a, at), Math.max(b, at + node.nodeSize)]
          })
          dispatch?.(state.tr.removeMark(a, b, parts.link))
        } else if (empty)
          dispatch?.(state.tr.insert(from, state.schema.text(to, [parts.link.create({ href: to })])))
        else dispatch?.(state.tr.addMark(from, end, parts.link.create({ href: to })))
        return true
      }),
    on: (verb) => on[verb](view.state),
    type: (words) => {
      for (const [i, line] of words.split('\n').entries()) {
        if (i > 0) splitBlock(view.state, view.dispatch)
        if (line) view.dispatch(view.state.tr.insertText(line))
      }
    },
    focus: () => view.focus(),
    end: () => {
      const typed = view.dom.innerHTML
      view.destroy()
      element.style.whiteSpace = ''
      element.innerHTML = typed || before
    },
  }
}
