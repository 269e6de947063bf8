import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { ColourWords } from '../../kit/ColourWords'
import { w } from '../../words'
import type { Level } from './levels'

export type PalettePart = 'ground' | 'text' | 'accent' | 'line'

/** The colours of a light or a dark site, each from the level above until another is said. */
export function LookColours({
  level,
  dark,
  theme,
  palette,
  unreadable,
  parts,
  onSay,
}: {
  level: Level
  dark: boolean
  theme: Api['LookChange']
  palette: Api['Palette']
  unreadable: readonly Api['PaletteFault'][]
  /** Those that are said at this level. */
  parts: readonly PalettePart[]
  onSay: (next: Partial<Api['LookChange']>) => void
}) {
  const mode = dark ? 'dark' : 'light'
  const change = theme[mode]
  const say = (part: PalettePart, colour: string | null) => onSay({ [mode]: { ...change, [part]: colour } })
  return (
    <fieldset aria-label={w.themes.colours[mode]} className="mt-5 grid gap-2">
      <p className="font-semibold">{w.themes.colours[mode]}</p>
      {parts.map((part) => (
        <div key={part} className="grid grid-cols-[3.6rem_minmax(0,1fr)] items-start gap-x-2">
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
      {unreadable
        .filter(({ part }) => parts.includes(part))
        .map(({ part, ratio, wanted, nearest }) => (
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
