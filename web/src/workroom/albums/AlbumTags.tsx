import { useState } from 'react'
import { Button } from '../../kit/Button'
import { Chooser } from '../../kit/Chooser'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useTags } from '../shell/data'

/** The tags of an album; pressed, one comes off. */
export function AlbumTags({ tags, onSay }: { tags: readonly string[]; onSay: (tags: string[]) => void }) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  const known = useTags(typed).data ?? []
  function add(name: string) {
    setTyped('')
    onSay([...tags, name])
  }
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
      <Popover
        open={open}
        onOpenChange={(now) => {
          setTyped('')
          setOpen(now)
        }}
        label={w.standing.whichTag}
        trigger={<Button look="word">{w.standing.addTag}</Button>}
      >
        <Chooser
          label={w.standing.whichTag}
          typed={typed}
          onType={setTyped}
          choices={known
            .filter((t) => !tags.includes(t.name))
            .map((t) => ({ key: t.id, name: t.name, note: w.count(t.photos) }))}
          onChoose={(t) => add(t.name)}
          onNew={add}
          newLabel={w.standing.makeTag}
        />
      </Popover>
    </p>
  )
}
