import type { Api } from '../../../api/client'
import { NumberWord } from '../../../kit/NumberWord'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import { usualMore } from './blocks'
import { Fold, Says } from './Parts'

type More = Api['More']

/** How photos come that do not stand on the page from the start. */
export function MoreFold({ more, onSay }: { more: More; onSay: (more: More) => void }) {
  return (
    <Fold
      name={w.more.fold}
      changed={more.by !== usualMore.by}
      onUsual={() => onSay({ ...more, by: usualMore.by })}
    >
      <Says>
        <span>{w.more.lead}</span>
        <WordSelect
          label={w.more.label}
          value={more.by}
          choices={(['scrolling', 'button', 'numbers'] as const).map((by) => [by, w.more.by[by]] as const)}
          onChoose={(by) => onSay({ ...more, by })}
        />
        {more.by !== 'scrolling' && (
          <>
            <NumberWord
              label={w.more.step}
              value={more.step}
              least={6}
              most={240}
              onSay={(step) => onSay({ ...more, step })}
            />
            <span>{w.more.each[more.by]}</span>
          </>
        )}
      </Says>
    </Fold>
  )
}
