import '@fontsource-variable/archivo/wght.css'
import '@fontsource-variable/caveat/wght.css'
import '@fontsource-variable/fraunces/wght.css'
import '@fontsource-variable/jetbrains-mono/wght.css'
import '@fontsource-variable/literata/wght.css'
import '@fontsource-variable/space-grotesk/wght.css'
import '@fontsource-variable/unbounded/wght.css'
import type { Api } from '../../api/client'
import { w } from '../../words'

type Look = Api['Look']

const faces: Record<Look['headings'], string> = {
  bricolage: '"Bricolage Grotesque Variable", sans-serif',
  instrument: '"Instrument Sans Variable", sans-serif',
  archivo: '"Archivo Variable", sans-serif',
  spaceGrotesk: '"Space Grotesk Variable", sans-serif',
  unbounded: '"Unbounded Variable", sans-serif',
  fraunces: '"Fraunces Variable", serif',
  literata: '"Literata Variable", serif',
  jetBrainsMono: '"JetBrains Mono Variable", monospace',
  caveat: '"Caveat Variable", cursive',
}

/** The themes that ship with the application, each a small piece of itself. */
export function Shipped({
  all,
  chosen,
  onChoose,
}: {
  all: readonly Api['ShippedTheme'][]
  chosen: Api['ThemeName']
  onChoose: (name: Api['ThemeName']) => void
}) {
  return (
    <fieldset aria-label={w.themes.themes} className="mt-6 grid grid-cols-3 gap-x-3 gap-y-4">
      {all.map(({ name, look }) => (
        <button
          key={name}
          type="button"
          aria-pressed={name === chosen}
          className="group text-left"
          onClick={() => onChoose(name)}
        >
          <Piece look={look} />
          <span
            className={`mt-1.5 block text-small ${name === chosen ? 'font-bold underline decoration-plum decoration-2 underline-offset-[6px]' : 'text-quiet group-hover:text-ink'}`}
          >
            {w.themes.names[name]}
          </span>
        </button>
      ))}
    </fieldset>
  )
}

/** A heading, two photos and what can be chosen, as a theme has them. */
function Piece({ look }: { look: Look }) {
  const palette = look.scheme === 'dark' ? look.dark : look.light
  const { topLeft, topRight, bottomRight, bottomLeft } = look.corners
  const corners = [topLeft, topRight, bottomRight, bottomLeft].map((c) => `${c * 0.45}px`).join(' ')
  const middle = look.head === 'middle'
  return (
    <span
      aria-hidden
      className="block border border-line px-2.5 pt-2.5 pb-3"
      style={{ background: palette.ground, color: palette.text, textAlign: middle ? 'center' : 'left' }}
    >
      <span
        className="block h-[22px] truncate leading-[22px]"
        style={{
          fontFamily: faces[look.headings],
          fontWeight: look.heading.weight,
          letterSpacing: `${look.heading.spacing}em`,
          fontSize: `${15 * look.heading.scale + 2}px`,
          textTransform: look.heading.capitals ? 'uppercase' : 'none',
        }}
      >
        {w.themes.piece}
      </span>
      <span className={`mt-1.5 flex gap-1 ${middle ? 'justify-center' : ''}`}>
        {[0, 1, 2].map((n) => (
          <span
            key={n}
            className="block h-[9px] w-6"
            style={{
              borderRadius: look.choices === 'pill' ? 9 : 0,
              boxShadow:
                look.choices === 'line'
                  ? `inset 0 -2px ${n === 0 ? palette.accent : 'transparent'}`
                  : `inset 0 0 0 1px ${n === 0 ? palette.accent : palette.line}`,
              background: look.choices !== 'line' && n === 0 ? palette.accent : 'none',
            }}
          />
        ))}
      </span>
      <span className="mt-2 grid grid-cols-[3fr_2fr] gap-1">
        <span className="h-9" style={{ borderRadius: corners, background: palette.accent, opacity: 0.55 }} />
        <span className="h-9" style={{ borderRadius: corners, background: palette.text, opacity: 0.3 }} />
      </span>
    </span>
  )
}
