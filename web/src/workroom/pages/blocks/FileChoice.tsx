import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, api, body } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { ChooserPopover } from '../../../kit/ChooserPopover'
import { w } from '../../../words'
import { BringIn } from '../../intake/BringIn'
import { bytes } from '../../shell/format'

type FileKind = Api['NamedFile']['kind']

/** Chooses a file of one's own by any part of its name; the latest are offered first. */
export function FileChoice({
  kind,
  without = [],
  words,
  onChoose,
}: {
  /** Only of that kind. */
  kind?: FileKind
  without?: readonly string[]
  /** What is pressed to choose. */
  words: string
  onChoose: (file: string) => void
}) {
  const [typed, setTyped] = useState('')
  const files = useQuery({
    queryKey: ['files', 'choice', kind, typed],
    queryFn: () =>
      body(api.GET('/api/files', { params: { query: { ...(kind && { kind }), typed } } }), w.errors.away),
  }).data?.files
  return (
    <>
      <ChooserPopover
        label={w.offer.which}
        trigger={<Button look="word">{words}</Button>}
        onType={setTyped}
        choices={(files ?? [])
          .filter((f) => !without.includes(f.id))
          .map((f) => ({ key: f.id, name: f.fileName, note: bytes(f.bytes) }))}
        onChoose={(choice) => onChoose(choice.key)}
      />
      <BringIn words={w.offer.bringIn} />
    </>
  )
}

/** Files that were chosen: undefined while they are read, null for one that is gone. */
export function useFilesChosen(files: readonly string[]) {
  const found = useQuery({
    queryKey: ['files', 'named', files],
    queryFn: () =>
      body(api.GET('/api/files/named', { params: { query: { id: [...files] } } }), w.errors.away),
    enabled: files.length > 0,
    placeholderData: keepPreviousData,
  })
  return files.map((file) => {
    const one = found.data?.find((f) => f.id === file)
    return one ?? (found.isSuccess && !found.isPlaceholderData ? null : undefined)
  })
}
