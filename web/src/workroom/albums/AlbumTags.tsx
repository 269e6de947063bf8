import { useState } from 'react'
import { Button } from '../../kit/Button'
import { ChooserPopover } from '../../kit/ChooserPopover'
import { w } from '../../words'
import { useTags } from '../shell/data'

/** The tags of an album; pressed, one comes off. */
export function AlbumTags({ tags, onSay }: { tags: readonly string[]; onSay: (tags: string[]) => void }) {
  const [typed, setTyped] = useState('')
  const known = useTags(typed).data ?? []
  return (
    <p className="flex flex-wrap items-baseline gap-x-2 gap-y-1">
      {tags.length > 0 && <span>{w.standing.tagged}</span>}
      {tags.map((tag) => (
        <Button
          key={tag}
          look="word"
          className="font-semibold"
          title={w.standing.takeTagOff(tag)}
          aria-label={w.standing.takeTagOff(tag)}
          onClick={() => onSay(tags.filter((t) => t !== tag))}
        >
          {tag}
        </Button>
      ))}
      <ChooserPopover
        label={w.standing.whichTag}
        trigger={<Button look="word">{w.standing.addTag}</Button>}
        onType={setTyped}
        choices={known
          .filter((t) => !tags.includes(t.name))
          .map((t) => ({ key: t.id, name: t.name, note: w.count(t.photos) }))}
        onChoose={(t) => onSay([...tags, t.name])}
        onNew={(name) => onSay([...tags, name])}
        newLabel={w.standing.makeTag}
      />
    </p>
  )
}
