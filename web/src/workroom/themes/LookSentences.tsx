import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { ColourWords } from '../../kit/ColourWords'
import { NumberWord } from '../../kit/NumberWord'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import type { Theme } from './useTheme'

type Look = Api['Look']
type LookChange = Api['LookChange']
type Palette = Api['Palette']

const families = [
  'bricolage',
  'instrument',
  'archivo',
  'spaceGrotesk',
  'unbounded',
  'fraunces',
  'literata',
  'jetBrainsMono',
  'caveat',
] as const
const parts = ['ground', 'text', 'accent', 'line'] as const
const corners = ['topLeft', 'topRight', 'bottomRight', 'bottomLeft'] as const
const square = { topLeft: 0, topRight: 0, bottomRight: 0, bottomLeft: 0 }

/** A level at which something of the look is said: of the whole site, or of one page. */
export type Level = 'site' | 'page'

/** What only the whole site says: when it is light and when dark, and how its head stands. */
export function SiteSentences({
  theme,
  look,
  onSay,
}: {
  theme: Theme
  /** What comes of it. */
  look: Look
  onSay: (next: Partial<Theme>) => void
}) {
  return (
    <>
      <Says>
        <span>{w.themes.site}</span>
        <Own
          level="site"
          label={w.themes.schemeLabel}
          said={theme.scheme}
          own={look.scheme}
          choices={(['light', 'dark', 'device'] as const).map((s) => [s, w.themes.scheme[s]] as const)}
          onSay={(scheme) => onSay({ scheme })}
        />
      </Says>
      <Says>
        <span>{w.themes.head}</span>
        <Own
          level="site"
          label={w.themes.headLabel}
          said={theme.head}
          own={look.head}
          choices={(['sides', 'middle', 'above'] as const).map((h) => [h, w.themes.heads[h]] as const)}
          onSay={(head) => onSay({ head })}
        />
      </Says>
    </>
  )
}

/** What is set of the look at one level, as sentences: each says what comes from the level above until something else is said. */
export function LookSentences({
  level,
  change,
  look,
  onSay,
}: {
  level: Level
  change: LookChange
  /** What comes of it. */
  look: Look
  onSay: (next: Partial<LookChange>) => void
}) {
  return (
    <>
      <Says>
        <span>{w.themes.headings}</span>
        <Own
          level={level}
          label={w.themes.headingsLabel}
          said={change.headings}
          own={look.headings}
          choices={families.map((f) => [f, w.themes.family[f]] as const)}
          onSay={(headings) => onSay({ headings })}
        />
        <span>{w.themes.words}</span>
        <Own
          level={level}
          label={w.themes.wordsLabel}
          said={change.words}
          own={look.words}
          choices={families.map((f) => [f, w.themes.family[f]] as const)}
          onSay={(words) => onSay({ words })}
        />
      </Says>
      <Says>
        <span>{w.themes.choices}</span>
        <Own
          level={level}
          label={w.themes.choicesLabel}
          said={change.choices}
          own={look.choices}
          choices={(['line', 'box', 'pill'] as const).map((c) => [c, w.themes.choice[c]] as const)}
          onSay={(choices) => onSay({ choices })}
        />
      </Says>
      <Says>
        <span>{w.themes.edge}</span>
        <NumberWord
          label={w.themes.edgeLabel}
          value={Number(look.edge)}
          least={0}
          most={24}
          onSay={(edge) => onSay({ edge })}
        />
        <span>{w.themes.edgePixels}</span>
        <Back
          level={level}
          label={w.themes.edgeLabel}
          isSaid={change.edge !== null}
          onSay={() => onSay({ edge: null })}
        />
        <span>{w.themes.shadowIs}</span>
        <Own
          level={level}
          label={w.themes.shadowLabel}
          said={change.shadow}
          own={look.shadow}
          choices={(['none', 'lying', 'held'] as const).map((s) => [s, w.themes.shadows[s]] as const)}
          onSay={(shadow) => onSay({ shadow })}
        />
      </Says>
      <Says>
        <span>{w.themes.corners}</span>
        <WordSelect
          label={w.themes.cornersLabel}
          value={change.corners === null ? 'theme' : 'said'}
          choices={(['theme', 'said'] as const).map(
            (c) => [c, c === 'theme' ? w.themes.cornersAbove[level] : w.themes.cornersSaid] as const,
          )}
          onChoose={(c) => onSay({ corners: c === 'theme' ? null : look.corners })}
        />
        {change.corners &&
          corners.map((corner) => (
            <span key={corner} className="flex items-baseline gap-1">
              <span className="text-quiet">{w.themes.corner[corner]}</span>
              <NumberWord
                label={w.themes.cornerOf(w.themes.corner[corner])}
                value={change.corners?.[corner] ?? 0}
                least={0}
                most={60}
                onSay={(to) => onSay({ corners: { ...(change.corners ?? square), [corner]: to } })}
              />
            </span>
          ))}
      </Says>
      <Says>
        <span>{w.themes.viewer}</span>
        <Own
          level={level}
          label={w.themes.viewerLabel}
          said={change.viewer}
          own={look.viewer}
          choices={(['night', 'page'] as const).map((v) => [v, w.themes.viewers[v]] as const)}
          onSay={(viewer) => onSay({ viewer })}
        />
      </Says>
    </>
  )
}

/** The colours of a light or a dark site, each from the level above until another is said. */
export function Colours({
  level,
  dark,
  theme,
  palette,
  unreadable,
  onSay,
}: {
  level: Level
  dark: boolean
  theme: LookChange
  palette: Palette
  unreadable: readonly Api['PaletteFault'][]
  onSay: (next: Partial<LookChange>) => void
}) {
  const mode = dark ? 'dark' : 'light'
  const change = theme[mode]
  const say = (part: (typeof parts)[number], colour: string | null) =>
    onSay({ [mode]: { ...change, [part]: colour } })
  return (
    <fieldset aria-label={w.themes.colours[mode]} className="mt-5 grid gap-2">
      <p className="font-semibold">{w.themes.colours[mode]}</p>
      {parts.map((part) => (
        <div key={part} className="grid grid-cols-[3.6rem_minmax(0,1fr)] items-center gap-x-2">
          <span className="text-quiet">{w.themes.part[part]}</span>
          <div>
            <ColourWords
              label={w.themes.colourOf(w.themes.part[part], w.themes.scheme[mode])}
              colour={palette[part]}
              onSay={(colour) => say(part, colour)}
            />
            {change[part] !== null && (
              <Button look="word" onClick={() => say(part, null)}>
                {w.themes.back[level]}
              </Button>
            )}
          </div>
        </div>
      ))}
      {unreadable.map(({ part, ratio, wanted, nearest }) => (
        <p key={part} role="status">
          {w.themes.weak(w.themes.part[part], ratio, wanted)}{' '}
          {nearest && (
            <Button look="word" onClick={() => say(part, nearest)}>
              <span
                aria-hidden
                className="mr-1 inline-block size-3 border border-strong-line"
                style={{ background: nearest }}
              />
              {w.themes.take(nearest)}
            </Button>
          )}
        </p>
      ))}
    </fieldset>
  )
}

/** A choice that comes from the level above until something else is said, and can come from there again. */
function Own<Value extends string>({
  level,
  label,
  said,
  own,
  choices,
  onSay,
}: {
  level: Level
  label: string
  said: Value | null
  own: Value
  choices: readonly (readonly [Value, string])[]
  onSay: (value: Value | null) => void
}) {
  return (
    <>
      <WordSelect label={label} value={own} choices={choices} onChoose={onSay} />
      <Back level={level} label={label} isSaid={said !== null} onSay={() => onSay(null)} />
    </>
  )
}

/** The way back to the level above, where something is said. */
function Back({
  level,
  label,
  isSaid,
  onSay,
}: {
  level: Level
  label: string
  isSaid: boolean
  onSay: () => void
}) {
  return (
    isSaid && (
      <Button look="word" aria-label={w.themes.backOf[level](label)} onClick={onSay}>
        {w.themes.back[level]}
      </Button>
    )
  )
}

function Says({ children }: { children: React.ReactNode }) {
  return <p className="mt-2 flex flex-wrap items-baseline gap-x-1.5 gap-y-1">{children}</p>
}
