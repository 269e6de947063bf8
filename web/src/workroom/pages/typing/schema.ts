import {
  defaultMarkdownParser,
  defaultMarkdownSerializer,
  schema as known,
  MarkdownParser,
  MarkdownSerializer,
} from 'prosemirror-markdown'
import { Schema } from 'prosemirror-model'

/** Words as a text block has them: paragraphs, subheadings, lists, quotations, strong, slanted, links. No pictures: those are blocks. */
export const textSchema = new Schema({
  nodes: known.spec.nodes
    .remove('image')
    .update('heading', { ...known.spec.nodes.get('heading'), content: 'text*' }),
  marks: known.spec.marks,
})

const { image: _, ...tokens } = defaultMarkdownParser.tokens
const parser = new MarkdownParser(textSchema, defaultMarkdownParser.tokenizer, tokens)
const { image: __, ...nodes } = defaultMarkdownSerializer.nodes
const serializer = new MarkdownSerializer(nodes, defaultMarkdownSerializer.marks)

/** Markdown with nothing that the page could not show: a picture becomes its words. */
export const read = (markdown: string) => parser.parse(markdown.replace(/!\[/g, '\\!['))
export const write = (doc: Parameters<typeof serializer.serialize>[0]) =>
  serializer.serialize(doc, { tightLists: true })

/** A heading: one line of words. */
export const lineSchema = new Schema({ nodes: { doc: { content: 'text*' }, text: {} } })
