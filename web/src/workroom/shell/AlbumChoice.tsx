import { Button } from '../../kit/Button'
import { ChooserPopover } from '../../kit/ChooserPopover'
import { Named } from '../../kit/Named'
import { w } from '../../words'
import { useAlbums } from './data'

/** Albums by name, in their order; pressed, one is taken away. */
export function AlbumChoice({
  albums,
  most = Number.POSITIVE_INFINITY,
  onSay,
}: {
  albums: readonly string[]
  most?: number
  onSay: (albums: string[]) => void
}) {
  const known = useAlbums().data ?? []
  const name = (id: string) => known.find((a) => a.id === id)?.workingName ?? w.source.gone
  return (
    <>
      {albums.map((id) => (
        <Named
          key={id}
          name={name(id)}
          label={w.source.takeOff(name(id))}
          onRemove={() => onSay(albums.filter((a) => a !== id))}
        />
      ))}
      {albums.length < most && (
        <ChooserPopover
          label={w.source.whichAlbum}
          trigger={<Button look="word">{w.source.addAlbum}</Button>}
          choices={known
            .filter((a) => !albums.includes(a.id))
            .map((a) => ({ key: a.id, name: a.workingName, note: w.count(a.photos) }))}
          onChoose={(choice) => onSay([...albums, choice.key])}
        />
      )}
    </>
  )
}
