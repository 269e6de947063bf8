import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate, useSearch } from '@tanstack/react-router'
import { useState } from 'react'
import { asNext, Button } from '../../kit/Button'
import { w } from '../../words'
import { FillAlbum } from '../filling/FillAlbum'
import { FillsBand } from '../filling/FillsBand'
import { isNarrowed } from '../narrowings/narrowing'
import { Sentence } from '../narrowings/Sentence'
import { Plate } from '../plate/Plate'
import { HandLine } from '../sheet/HandLine'
import { Sheet } from '../sheet/Sheet'
import { type SheetQuery, sheetQuery, windowOf } from '../sheet/useSheet'
import { Empty, Heading } from '../shell/Station'
import { SheetLine } from './SheetLine'

/** The sheet of all photos, or the plate of the one that is open. */
export function PhotosStation() {
  const search = useSearch({ from: '/workroom/photos' })
  const go = useNavigate({ from: '/workroom/photos' })
  const [size, setSize] = useState(1)
  const [start, setStart] = useState(0)
  const query = sheetQuery(search)
  const total = useQuery(windowOf(query, 0)).data?.total
  const narrowed = isNarrowed(search)
  const change = (next: SheetQuery) => void go({ search: (s) => ({ ...s, ...next }), replace: true })
  if (search.photo)
    return (
      <Plate
        id={search.photo}
        query={search}
        name={w.sheet.title}
        onGo={(photo) => void go({ search: (s) => ({ ...s, photo }), replace: true })}
        onBack={(position) => {
          setStart(position)
          void go({ search: (s) => ({ ...s, photo: undefined }) })
        }}
      />
    )
  return (
    <div className="flex h-full flex-col px-[30px] pt-7">
      {search.fills && <FillsBand key={search.fills} album={search.fills} search={query} />}
      <Heading
        title={w.sheet.title}
        right={<SheetLine search={search} size={size} onSize={setSize} onChange={change} />}
      />
      <Sentence search={search} total={total} onChange={change}>
        {!search.fills && <FillAlbum search={query} />}
      </Sentence>
      <HandLine rest={w.hand.howToTake} query={query} total={total} />
      <div className="flex min-h-0 flex-1 flex-col pt-[18px]">
        <Sheet
          key={JSON.stringify(query)}
          query={query}
          size={size}
          start={start}
          onOpen={(photo, index) => {
            setStart(index)
            void go({ search: (s) => ({ ...s, photo }) })
          }}
          empty={
            narrowed ? (
              <Empty title={w.sheet.nothing}>
                <Button onClick={() => void go({ search: (s) => (s.fills ? { fills: s.fills } : {}) })}>
                  {w.sheet.widen}
                </Button>
              </Empty>
            ) : (
              <Empty title={w.sheet.none} lead={w.desk.emptyLead}>
                <Link to="/workroom/intake" className={asNext}>
                  {w.desk.bring}
                </Link>
              </Empty>
            )
          }
        />
      </div>
    </div>
  )
}
