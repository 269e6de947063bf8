import { Link } from '@tanstack/react-router'
import { type ReactNode, useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { HeldBack } from '../clearance/HeldBack'
import type { Block } from './blocks/blocks'

/** What the software notices of a block while one works on it: which layout suits, which photos are too small, which lack words. */
export function MarginNotes({
  block,
  notes,
  onSay,
}: {
  block: Block
  notes: Api['BlockNotes']
  onSay: (block: Block) => void
}) {
  const { advice, small, blurred, onlySharp, withoutWords, shows, leadsNowhere, over, written, held } = notes
  const sayGround = (next: Partial<Api['Ground']>) =>
    onSay({ ...block, frame: { ...block.frame, ground: { ...block.frame.ground, ...next } } })
  const album =
    block.kind === 'photos' && block.source.kind === 'albums' ? block.source.albums.join(',') : undefined
  const suits = block.kind === 'photos' && w.pages.notes.take[block.layout.kind] ? advice : null
  const lines = [
    shows === 0 && <Note key="nothing">{w.pages.notes.nothing}</Note>,
    leadsNowhere && block.kind === 'button' && (
      <Note key="nowhere">{block.link.thing || block.link.address ? w.link.private : w.link.nowhere}</Note>
    ),
    block.kind === 'photos' && suits && (
      <Note key="advice">
        {suits.sentence}{' '}
        {suits.kind !== block.layout.kind && (
          <Button
            look="word"
            onClick={() => onSay({ ...block, layout: { ...block.layout, kind: suits.kind } })}
          >
            {w.pages.notes.take[suits.kind]}
          </Button>
        )}
      </Note>
    ),
    blurred + onlySharp > 0 && (
      <Note key="small">
        <TooSmall small={small} blurred={blurred} onlySharp={onlySharp} />
      </Note>
    ),
    over && !over.isEnough && (
      <Note key="over">
        {w.ground.weak(over.ratio, over.wanted)}{' '}
        {over.veil !== null && (
          <>
            <Button look="word" onClick={() => sayGround({ veil: over.veil ?? 0 })}>
              {w.ground.thicken(over.veil)}
            </Button>{' '}
          </>
        )}
        {over.nearest && <Write colour={over.nearest} onSay={(words) => sayGround({ words })} />}
      </Note>
    ),
    block.kind === 'photos' && written && (
      <Note key="written">
        <Unreadable written={written} words={block.words} onSay={(words) => onSay({ ...block, words })} />
      </Note>
    ),
    held && (
      <Note key="held">
        <HeldBack held={held} />
      </Note>
    ),
    withoutWords > 0 && (
      <Note key="words">
        {album ? (
          <Link
            to="/workroom/photos"
            search={{ album, missing: 'alt' }}
            className="underline decoration-strong-line decoration-1 underline-offset-[5px]"
          >
            {w.pages.notes.withoutWords(withoutWords)}
          </Link>
        ) : (
          w.pages.notes.withoutWords(withoutWords)
        )}
      </Note>
    ),
  ].filter(Boolean)
  if (lines.length === 0) return null
  return (
    <ul aria-label={w.pages.notes.label} className="mt-1.5 grid gap-1 text-small">
      {lines}
    </ul>
  )
}

function Note({ children }: { children: ReactNode }) {
  return (
    <li className="grid grid-cols-[1rem_minmax(0,1fr)]">
      <span aria-hidden className="mt-[0.4em] block size-[7px] rotate-45 bg-plum" />
      <span>{children}</span>
    </li>
  )
}

/** Offers a colour that can be read. */
function Write({ colour, onSay }: { colour: string; onSay: (colour: string) => void }) {
  return (
    <Button look="word" onClick={() => onSay(colour)}>
      <span
        aria-hidden
        className="mr-1 inline-block size-3 border border-strong-line"
        style={{ background: colour }}
      />
      {w.ground.write(colour)}
    </Button>
  )
}

/** Words with the photos that cannot be read on a device, and what helps there. */
function Unreadable({
  written: { device, ratio, wanted, nearest, dense },
  words,
  onSay,
}: {
  written: Api['WordsOnPhotos']
  words: Api['FrameWords']
  onSay: (words: Api['FrameWords']) => void
}) {
  // What is not set apart there is set for a desktop.
  const set = words[device]
  const say = (next: Partial<Api['WordsSet']>) =>
    onSay({ ...words, [set ? device : 'desktop']: { ...(set ?? words.desktop), ...next } })
  return (
    <>
      {w.frames.weak(device, ratio, wanted)}{' '}
      {dense !== null && (
        <>
          <Button look="word" onClick={() => say({ dense })}>
            {w.frames.hide(dense)}
          </Button>{' '}
        </>
      )}
      {nearest && <Write colour={nearest} onSay={(colour) => say({ colour })} />}
    </>
  )
}

/** Which photos are smaller than their places; pressed, they are shown. */
function TooSmall({
  small,
  blurred,
  onlySharp,
}: {
  small: readonly Api['SmallOnPage'][]
  blurred: number
  onlySharp: number
}) {
  const [open, setOpen] = useState(false)
  return (
    <Popover
      wide
      open={open}
      onOpenChange={setOpen}
      label={w.pages.notes.small(blurred, onlySharp)}
      trigger={
        <button
          type="button"
          className="text-left underline decoration-strong-line decoration-1 underline-offset-[5px] hover:decoration-ink"
        >
          {w.pages.notes.small(blurred, onlySharp)}
        </button>
      }
    >
      <ul className="grid max-h-80 grid-cols-3 gap-3 overflow-y-auto text-small">
        {small.map((photo) => (
          <li key={photo.photo}>
            <Link to="/workroom/photos" search={{ photo: photo.photo }} className="group block">
              <span className="flex h-16 items-end">
                <img
                  src={rendition(photo.picture, 480)}
                  alt=""
                  loading="lazy"
                  className="max-h-16 w-auto max-w-full"
                />
              </span>
              <span className="block truncate group-hover:underline">{photo.name}</span>
              <span className="block text-quiet">
                {photo.blurred ? w.pages.notes.onAny(photo.device) : w.pages.notes.onSharp(photo.device)}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {blurred + onlySharp > small.length && (
        <p className="mt-3 text-small text-quiet">{w.pages.notes.more(blurred + onlySharp - small.length)}</p>
      )}
    </Popover>
  )
}
