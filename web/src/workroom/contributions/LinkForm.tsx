import { useQueryClient } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { fieldOf, momentOf } from '../access/audience/data'
import { AlbumChoice } from '../shell/AlbumChoice'
import { LineForm } from '../shell/LineForm'
import { refresh } from '../shell/refresh'
import type { Link } from './data'

const field = 'w-full border-b border-strong-line bg-transparent py-1 outline-none focus:border-plum'

/** Makes a contribution link, or has one ask for something else. */
export function LinkForm({
  link,
  most,
  onDone,
}: {
  /** Null to make one. */
  link?: Link
  /** So many photos at once, whatever is said. */
  most: number
  onDone: () => void
}) {
  const client = useQueryClient()
  const [album, setAlbum] = useState<string | null>(link?.album ?? null)
  const [who, setWho] = useState<'anybody' | 'members'>(link?.forMembers ? 'members' : 'anybody')
  async function send(text: (name: string) => string) {
    const said = {
      title: text('title'),
      words: text('words'),
      agree: text('agree'),
      album,
      ends: momentOf(text('ends')),
      forMembers: who === 'members',
      most: Number(text('most')),
    }
    if (link) {
      const params = { path: { link: link.id }, header: { 'If-Match': link.version } }
      await body(api.PUT('/api/contribution-links/{link}', { params, body: said }), w.errors.away)
    } else await body(api.POST('/api/contribution-links', { body: said }), w.errors.away)
    refresh(client)
    onDone()
  }
  return (
    <div className="max-w-[38rem]">
      <LineForm
        look="next"
        verb={link ? w.contributionLinks.say : w.contributionLinks.make}
        send={send}
        also={
          <Button look="word" onClick={onDone}>
            {link ? w.contributionLinks.keep : w.contributions.notNow}
          </Button>
        }
      >
        {(faults) => (
          <>
            <Line label={w.contributionLinks.title}>
              <input
                name="title"
                maxLength={120}
                defaultValue={link?.title}
                placeholder={w.contributionLinks.titleHint}
                aria-invalid={!!faults.title}
                className={field}
              />
            </Line>
            <Line label={w.contributionLinks.words}>
              <textarea
                name="words"
                rows={4}
                maxLength={4000}
                defaultValue={link?.words}
                placeholder={w.contributionLinks.wordsHint}
                className={`resize-y ${field}`}
              />
            </Line>
            <Line label={w.contributionLinks.agree}>
              <input
                name="agree"
                maxLength={400}
                defaultValue={link?.agree}
                placeholder={w.contributionLinks.agreeHint}
                className={field}
              />
            </Line>
            <p className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
              <WordSelect
                label={w.contributionLinks.who}
                value={who}
                choices={[
                  ['anybody', w.contributionLinks.whoAnybody],
                  ['members', w.contributionLinks.whoMembers],
                ]}
                onChoose={setWho}
              />
              <label>
                {w.contributionLinks.mostLabel}{' '}
                <input
                  name="most"
                  type="number"
                  min={1}
                  max={most}
                  defaultValue={link?.most ?? 50}
                  aria-invalid={!!faults.most}
                  className="w-16 border-b border-strong-line bg-transparent text-right tabular-nums outline-none focus:border-plum"
                />
              </label>
              <label>
                {w.contributionLinks.ends}{' '}
                <input
                  name="ends"
                  type="datetime-local"
                  defaultValue={fieldOf(link?.ends)}
                  aria-invalid={!!faults.ends}
                  className="border-b border-strong-line bg-transparent outline-none focus:border-plum"
                />
              </label>
            </p>
            <p className="flex flex-wrap items-baseline gap-x-3">
              {w.contributionLinks.album}{' '}
              {album === null && <span className="text-quiet">{w.contributionLinks.noAlbum}</span>}
              <AlbumChoice
                albums={album ? [album] : []}
                most={1}
                onSay={(albums) => setAlbum(albums[0] ?? null)}
              />
            </p>
            <p role="alert" className="text-small font-semibold empty:hidden">
              {[faults.title, faults.words, faults.agree, faults.ends, faults.most].filter(Boolean).join(' ')}
            </p>
          </>
        )}
      </LineForm>
    </div>
  )
}

function Line({ label, children }: { label: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the control is what stands in it
    <label>
      <span className="block text-small text-quiet">{label}</span>
      {children}
    </label>
  )
}
