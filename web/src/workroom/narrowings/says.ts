import { w } from '../../words'
import { none, type Part } from './narrowing'

/** A day, a month or a year of a choice in words. */
function dated(text: string, withYear = true): string {
  const [year = '', month, day] = text.split('-')
  if (!month) return year
  const named = new Date(Date.UTC(Number(year), Number(month) - 1, Number(day ?? 1))).toLocaleDateString(
    'en-GB',
    {
      ...(day && { day: 'numeric' }),
      month: 'long',
      ...(withYear && { year: 'numeric' }),
      timeZone: 'UTC',
    },
  )
  return named
}

/** Times taken in words: "13 to 14 June 2026". */
export function takenWords(choice: string): string {
  const [from = '', to] = choice.split('--')
  if (!to) return dated(from)
  const [a, b] = [from.split('-'), to.split('-')]
  const sameYear = a[0] === b[0] && a.length > 1 && b.length > 1
  const sameMonth = sameYear && a[1] === b[1] && a.length === 3 && b.length === 3
  return w.narrowing.span(sameMonth ? String(Number(a[2])) : dated(from, !sameYear), dated(to))
}

/** A span of pixels in words. */
export function pixelWords(choice: string): string {
  const [from = '', to = ''] = choice.split('-')
  const number = (text: string) => Number(text).toLocaleString('en')
  return from === '0'
    ? w.narrowing.under(number(String(Number(to) + 1)))
    : to === ''
      ? w.narrowing.over(number(from))
      : w.narrowing.span(number(from), number(to))
}

/** A source in words: the way, or which of several. */
function sourceWords(choice: string): string {
  const at = choice.indexOf(':')
  const name = choice.slice(at + 1)
  if (at > 0 && choice.startsWith('watched')) return w.narrowing.watched(name)
  if (at > 0 && choice.startsWith('scanner')) return w.narrowing.scanner(name)
  return w.narrowing.choices.source?.[choice] ?? choice
}

/** What one choice of a part is called. */
export function choiceWords(kind: Part['kind'], choice: string, name: string | null | undefined): string {
  if (choice === none) return w.narrowing.none[kind] ?? choice
  if (name && kind === 'intake') return w.narrowing.begun(name)
  if (name) return name
  if (kind === 'taken') return takenWords(choice)
  if (kind === 'pixels') return pixelWords(choice)
  if (kind === 'source') return sourceWords(choice)
  return w.narrowing.choices[kind]?.[choice] ?? (/^[0-9a-f-]{36}$/.test(choice) ? w.narrowing.gone : choice)
}

/** A part as the sentence says it. */
export function partWords(
  part: Part,
  nameOf: (part: Part, choice: string) => string | null | undefined,
): string {
  const said = part.choices.map((choice) => {
    const words = choiceWords(part.kind, choice, nameOf(part, choice))
    return part.kind === 'taken' && choice !== none ? w.narrowing.when(words, choice) : words
  })
  const all = said.length > 3 ? [...said.slice(0, 2), w.narrowing.more(said.length - 2)] : said
  const only = part.choices.length === 1 && part.choices[0] === none
  if (only && !part.not) return w.narrowing.onlyNone[part.kind] ?? all.join()
  // None of what is lacking lacks: all of it is there.
  const joined = part.kind === 'missing' && part.not ? w.narrowing.andAll(all) : w.narrowing.or(all)
  return w.narrowing.says[part.kind](joined, part.not, only)
}
