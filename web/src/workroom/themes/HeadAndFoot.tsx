import { api, body, bytesOf } from '../../api/client'
import { FileVerb } from '../../kit/FileVerb'
import { NumberWord } from '../../kit/NumberWord'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { useSession } from '../shell/data'
import { useBringing } from '../shell/useBringing'
import type { Theme } from './useTheme'

/** What stands at the top and at the foot of every page of the site. */
export function HeadAndFoot({ theme, onSay }: { theme: Theme; onSay: (next: Partial<Theme>) => void }) {
  const bounds = useSession().data?.bounds
  const { logo } = theme
  const largest = bounds?.largestLogo ?? Number.POSITIVE_INFINITY
  const { fault, bring } = useBringing(
    async (picture) => {
      const brought = await body(
        api.POST('/api/theme/logos', bytesOf(picture, 'application/octet-stream')),
        w.errors.away,
      )
      onSay({ logo: { ...brought, high: logo?.high ?? brought.high } })
    },
    largest,
    w.themes.tooLarge(largest),
  )
  const verb = (words: string) => (
    <FileVerb label={w.themes.bring} accept=".png,.jpg,.jpeg,.webp,.gif,.svg" onFile={bring}>
      {words}
    </FileVerb>
  )
  return (
    <>
      <p className="mt-2 flex flex-wrap items-baseline gap-x-1.5 gap-y-1">
        <span>{w.themes.logo}</span>
        {logo === null ? (
          <>
            <span>{w.themes.logos.title}</span>
            {verb(w.themes.bring)}
          </>
        ) : (
          <>
            <WordSelect
              label={w.themes.logoLabel}
              value="picture"
              choices={(['picture', 'title'] as const).map((what) => [what, w.themes.logos[what]] as const)}
              onChoose={(what) => what === 'title' && onSay({ logo: null })}
            />
            <NumberWord
              label={w.themes.logoHighLabel}
              value={Number(logo.high)}
              least={bounds?.lowestLogo ?? 1}
              most={bounds?.highestLogo ?? 1}
              onSay={(high) => onSay({ logo: { ...logo, high } })}
            />
            <span>{w.themes.logoHigh}</span>
            {verb(w.themes.another)}
          </>
        )}
      </p>
      {fault && (
        <p role="alert" className="mt-1 font-semibold">
          {fault}
        </p>
      )}
      <label className="mt-2 block">
        {w.themes.foot}
        <textarea
          rows={2}
          className="in-place mt-0.5"
          placeholder={w.themes.footHint}
          maxLength={bounds?.longestFoot}
          value={theme.foot ?? ''}
          onChange={(e) => onSay({ foot: e.target.value === '' ? null : e.target.value })}
        />
      </label>
    </>
  )
}
