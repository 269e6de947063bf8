import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, body } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { ChooserPopover } from '../../../kit/ChooserPopover'
import { w } from '../../../words'
import { useGroups } from '../../shell/data'
import type { Chosen } from './data'

const offered = 8

/** Groups and members that something is for: each is left out at a press, others are found by typing. */
export function ChosenOnes({
  all,
  onChoose,
  onLeaveOut,
}: {
  all: readonly Chosen[]
  onChoose: (one: Chosen) => void
  onLeaveOut: (one: Chosen) => void
}) {
  const [typed, setTyped] = useState('')
  const groups = useGroups().data ?? []
  const members = useQuery({
    queryKey: ['members', 'chosen', typed],
    queryFn: () =>
      body(
        api.GET('/api/members', { params: { query: { ...(typed && { q: typed }), count: offered } } }),
        w.errors.away,
      ),
    placeholderData: keepPreviousData,
  })
  const choices: Chosen[] = [
    ...groups.map(({ id, name }) => ({ id, name, isGroup: true })),
    ...(members.data?.members ?? []).map(({ id, name }) => ({ id, name, isGroup: false })),
  ].filter((choice) => !all.some((c) => c.id === choice.id))
  return (
    <p className="flex flex-wrap items-baseline gap-x-3 gap-y-2 pb-3.5 pl-6">
      {all.length === 0 && <span className="text-quiet">{w.audience.nobodyChosen}</span>}
      {all.map((one) => (
        <Button
          key={one.id}
          aria-label={w.audience.leaveOut(one.name)}
          className="py-0.5"
          onClick={() => onLeaveOut(one)}
        >
          {one.isGroup ? `${w.audience.aGroup} ${one.name}` : one.name}
          <span aria-hidden className="ml-2 text-quiet">
            ×
          </span>
        </Button>
      ))}
      <ChooserPopover
        label={w.audience.choosing}
        trigger={<Button look="word">{w.audience.choose}</Button>}
        choices={choices.map((c) => ({ key: c.id, name: c.name, note: c.isGroup ? w.audience.aGroup : '' }))}
        onType={setTyped}
        onChoose={(choice) => {
          const one = choices.find((c) => c.id === choice.key)
          if (one) onChoose(one)
        }}
      />
    </p>
  )
}
