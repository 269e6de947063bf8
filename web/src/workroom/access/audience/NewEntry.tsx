import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, body } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import { LineForm } from '../../shell/LineForm'
import { refresh } from '../../shell/refresh'
import { type AudienceOf, momentOf, pathOf } from './data'

const line = 'border-b border-strong-line bg-transparent outline-none focus:border-plum'

/** Makes an entry link or a passcode for somebody, in a sentence. */
export function NewEntry({ of }: { of: AudienceOf }) {
  const client = useQueryClient()
  const [kind, setKind] = useState<'link' | 'passcode'>('link')
  const [limited, setLimited] = useState(false)
  async function make(text: (name: string) => string) {
    const most = text('most').trim()
    await body(
      api.POST('/api/audiences/{kind}/{thing}/entries', {
        ...pathOf(of),
        body: { name: text('name'), kind, ends: momentOf(text('ends')), most: most ? Number(most) : null },
      }),
      w.errors.away,
    )
    refresh(client)
  }
  return (
    <div className="mt-3">
      <LineForm verb={w.audience.make(w.audience.kinds[kind])} send={make}>
        {(faults) => (
          <>
            <p className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
              <label>
                {w.audience.forWhom}{' '}
                <input
                  name="name"
                  maxLength={120}
                  placeholder={w.audience.forWhomHint}
                  aria-invalid={!!faults.name}
                  className={`w-56 ${line}`}
                />
              </label>
              <WordSelect
                label={w.audience.kind}
                value={kind}
                choices={[
                  ['link', w.audience.kinds.link],
                  ['passcode', w.audience.kinds.passcode],
                ]}
                onChoose={setKind}
              />
              <Button look="word" aria-expanded={limited} onClick={() => setLimited(!limited)}>
                {limited ? w.audience.noLimits : w.audience.limits}
              </Button>
            </p>
            {limited && (
              <p className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
                <label title={w.audience.goodHint}>
                  {w.audience.good}{' '}
                  <input name="ends" type="datetime-local" aria-invalid={!!faults.ends} className={line} />
                </label>
                <label title={w.audience.mostHint}>
                  {w.audience.most}{' '}
                  <input
                    name="most"
                    type="number"
                    min={1}
                    max={100_000}
                    aria-invalid={!!faults.most}
                    className={`w-16 text-right ${line}`}
                  />
                </label>
              </p>
            )}
            <p role="alert" className="text-small font-semibold empty:hidden">
              {[faults.name, faults.ends, faults.most].filter(Boolean).join(' ')}
            </p>
          </>
        )}
      </LineForm>
    </div>
  )
}
