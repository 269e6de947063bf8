import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { NumberWord } from '../../kit/NumberWord'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { useSession } from '../shell/data'
import { LookColours, type PalettePart } from './LookColours'
import { Back, type Level, Own, Says } from './levels'
import type { Theme } from './useTheme'

type Look = Api['Look']
type LookChange = Api['LookChange']

/** What of the look is said where something looks: a block has not all of it. */
export type Offered = {
  says: readonly ('headings' | 'words' | 'choices' | 'photos' | 'apart' | 'viewer')[]
  colours: readonly PalettePart[]
}
const everything: Offered = {
  says: ['headings', 'words', 'choices', 'photos', 'apart', 'viewer'],
  colours: ['ground', 'text', 'accent', 'line'],
}
const corners = ['topLeft', 'topRight', 'bottomRight', 'bottomLeft'] as const
const square = { topLeft: 0, topRight: 0, bottomRight: 0, bottomLeft: 0 }

/** All that is set of the look at one level, what cannot be read there, and the way back to the level above. */
export function LookLevel({
  level,
  change,
  look,
  unreadable,
  isSaid,
  onSay,
  onNothing,
  offered = everything,
  grounded = false,
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
  offered?: Offered
  /** It is a block on a ground, whose colours its words have. */
  grounded?: boolean
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
      <LookSentences level={level} change={change} look={look} says={offered.says} onSay={onSay} />
      {grounded && <p className="mt-3 text-quiet">{w.themes.block.grounded}</p>}
      {(grounded ? [] : modes).map((dark) => (
        <LookColours
          key={String(dark)}
          level={level}
          dark={dark}
          theme={change}
          palette={dark ? look.dark : look.light}
          parts={offered.colours}
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
  says,
  onSay,
}: {
  level: Level
  change: LookChange
  /** What comes of it. */
  look: Look
  says: Offered['says']
  onSay: (next: Partial<LookChange>) => void
}) {
  const bounds = useSession().data?.bounds
  const has = (part: Offered['says'][number]) => says.includes(part)
  return (
    <>
      {(has('headings') || has('words')) && (
        <Says>
          {has('headings') && (
            <>
              <span>{w.themes.headings}</span>
              <Own
                level={level}
                label={w.themes.headingsLabel}
                said={change.headings}
                own={look.headings}
                names={w.themes.family}
                onSay={(headings) => onSay({ headings })}
              />
            </>
          )}
          {has('words') && (
            <>
              <span>{has('headings') ? w.themes.words : w.themes.wordsAlone}</span>
              <Own
                level={level}
                label={w.themes.wordsLabel}
                said={change.words}
                own={look.words}
                names={w.themes.family}
                onSay={(words) => onSay({ words })}
              />
            </>
          )}
        </Says>
      )}
      {has('choices') && (
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
      )}
      {has('photos') && (
        <>
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
        </>
      )}
      {has('apart') && (
        <Says>
          <span>{w.themes.gap}</span>
          <NumberWord
            label={w.themes.gapLabel}
            value={Number(look.gap)}
            least={0}
            most={bounds?.largestGap ?? 0}
            onSay={(gap) => onSay({ gap })}
          />
          <span>{w.themes.gapPixels}</span>
          <Back
            level={level}
            label={w.themes.gapLabel}
            isSaid={change.gap !== null}
            onSay={() => onSay({ gap: null })}
          />
        </Says>
      )}
      {has('viewer') && (
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
      )}
    </>
  )
}
