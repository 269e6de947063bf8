import { useState } from 'react'
import { api, body } from '../../api/client'
import { asWord, Button } from '../../kit/Button'
import { w } from '../../words'
import { CopyVerb } from '../shell/CopyVerb'
import { useAct } from '../shell/data'
import { moment } from '../shell/format'
import { tell } from '../shell/news'
import { Sure } from '../shell/Sure'
import type { Link } from './data'
import { LinkForm } from './LinkForm'

/** A contribution link: what came by it, and what is done with it. */
export function LinkRow({ link, most }: { link: Link; most: number }) {
  const [doing, setDoing] = useState<'change' | 'withdraw' | null>(null)
  const address = `${window.location.origin}${link.path}`
  const withdraw = useAct(
    () =>
      body(
        api.DELETE('/api/contribution-links/{link}', { params: { path: { link: link.id } } }),
        w.errors.away,
      ),
    () => tell({ text: w.contributionLinks.withdrawn(link.title) }),
  )
  const facts = [
    w.contributionLinks.sent(link.contributions, link.waiting),
    !link.isOpen ? w.contributionLinks.over : link.ends && w.contributionLinks.until(moment(link.ends)),
    link.forMembers && w.contributionLinks.forMembers,
    link.albumName && w.contributionLinks.into(link.albumName),
    w.contributionLinks.madeBy(link.madeBy),
  ]
  return (
    <li className="border-t border-line py-3">
      <div className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-6 gap-y-0.5 max-sm:grid-cols-1">
        <span className="truncate font-semibold" title={link.title}>
          {link.title}
        </span>
        <span className="flex flex-wrap items-baseline justify-end gap-x-4 text-small max-sm:justify-start">
          <CopyVerb text={address} done={w.contributionLinks.copied} byHand={w.contributionLinks.byHand}>
            {w.contributionLinks.copy}
          </CopyVerb>
          <a href={link.path} target="_blank" rel="noreferrer" className={asWord}>
            {w.contributionLinks.look}
          </a>
          <Button
            look="word"
            aria-expanded={doing === 'change'}
            onClick={() => setDoing(doing === 'change' ? null : 'change')}
          >
            {w.contributionLinks.change}
          </Button>
          <Button
            look="word"
            aria-expanded={doing === 'withdraw'}
            onClick={() => setDoing(doing === 'withdraw' ? null : 'withdraw')}
          >
            {w.contributionLinks.withdraw}
          </Button>
        </span>
        <span className="truncate text-small text-quiet select-all" title={address}>
          {address}
        </span>
        <span className="text-right text-small text-quiet max-sm:text-left">
          {facts.filter(Boolean).join(', ')}
        </span>
      </div>
      {doing === 'change' && (
        <div className="mt-4">
          <LinkForm link={link} most={most} onDone={() => setDoing(null)} />
        </div>
      )}
      {doing === 'withdraw' && (
        <Sure
          says={w.contributionLinks.withdrawAsk}
          verb={w.contributionLinks.withdraw}
          keep={w.contributionLinks.keep}
          isBusy={withdraw.isPending}
          onYes={() => withdraw.mutate(undefined)}
          onNo={() => setDoing(null)}
        />
      )}
    </li>
  )
}
