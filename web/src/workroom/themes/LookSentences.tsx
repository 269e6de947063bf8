import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { ColourWords } from '../../kit/ColourWords'
import { NumberWord } from '../../kit/NumberWord'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { useSession } from '../shell/data'
import type { Theme } from './useTheme'

type Look = Api['Look']
type LookChange = Api['LookChange']
type Palette = Api['Palette']

const parts = ['ground', 'text', 'accent', 'line'] as const
const corners = ['topLeft', 'topRight', 'bottomRight', 'bottomLeft'] as const
const square = { topLeft: 0, topRight: 0, bottomRight: 0, bottomLeft: 0 }

/** A level at which something of the look is said: of the whole site, or of one page. */
export type Level = 'site' | 'page'

/** All that is set of the look at one level, what cannot be read there, and the way back to the level above. */
export function LookLevel({
  level,
  change,
  look,
  unreadable,
  isSaid,
  onSay,
  onNothing,
  children,
}: {
  level: Level
  change: LookChange
  /** What comes of it. */
  look: Look
  unreadable: readonly Api['Unreadable'][]
  /** Something is said at this level. */
  isSaid: boolean
  onSay: (next: Partial<LookChange>) => void
  /** All is to be as at the level above. */
  onNothing: () => void
  /** What is said at this level alone. */
  children?: React.ReactNode
}) {
  const modes = look.scheme === 'device' ? [false, true] : [look.scheme === 'dark']
  return (
    <>
      {isSaid && (
        <p className="mt-1">
          {w.themes.changed[level]}{' '}
          <Button look="word" onClick={onNothing}>
            {w.themes.backWhole[level]}
          </Button>
        </p>
      )}
      {children}
      <LookSentences level={level} change={change} look={look} onSay={onSay} />
      {modes.map((dark) => (
        <Colours
          key={String(dark)}
          level={level}
          dark={dark}
          theme={change}
          palette={dark ? look.dark : look.light}
          unreadable={unreadable.filter((u) => u.dark === dark).map((u) => u.fault)}
          onSay={onSay}
        />
      ))}
    </>
  )
}

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
          names={w.themes.scheme}
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
          names={w.themes.heads}
          onSay={(head) => onSay({ head })}
        />
      </Says>
    </>
  )
}

/** What is set of the look at one level, as sentences: each says what comes from the level above until something else is said. */
function LookSentences({
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
  const bounds = useSession().data?.bounds
  return (
    <>
      <Says>
        <span>{w.themes.headings}</span>
        <Own
          level={level}
          label={w.themes.headingsLabel}
          said={change.headings}
          own={look.headings}
          names={w.themes.family}
          onSay={(headings) => onSay({ headings })}
        />
        <span>{w.themes.words}</span>
        <Own
          level={level}
          label={w.themes.wordsLabel}
          said={change.words}
          own={look.words}
          names={w.themes.family}
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
          names={w.themes.choice}
          onSay={(choices) => onSay({ choices })}
        />
      </Says>
      <Says>
        <span>{w.themes.edge}</span>
        <NumberWord
          label={w.themes.edgeLabel}
          value={Number(look.edge)}
          least={0}
          most={bounds?.widestEdge ?? 0}
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
          names={w.themes.shadows}
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
                most={bounds?.roundestCorner ?? 0}
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
          names={w.themes.viewers}
          onSay={(viewer) => onSay({ viewer })}
        />
      </Says>
    </>
  )
}

/** The colours of a light or a dark site, each from the level above until another is said. */
function Colours({
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
  names,
  onSay,
}: {
  level: Level
  label: string
  said: Value | null
  own: Value
  /** What each of them is called, in their order. */
  names: Readonly<Record<Value, string>>
  onSay: (value: Value | null) => void
}) {
  return (
    <>
      <WordSelect
        label={label}
        value={own}
        choices={Object.entries(names) as [Value, string][]}
        onChoose={onSay}
      />
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
