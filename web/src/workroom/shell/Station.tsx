import { Link } from '@tanstack/react-router'
import type { ReactNode } from 'react'
import { asNext } from '../../kit/Button'
import { w } from '../../words'

/** A station's heading with the line beneath it and what stands at its right. */
export function Heading({ title, lead, right }: { title: ReactNode; lead?: ReactNode; right?: ReactNode }) {
  return (
    <header className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
      <div className="min-w-0">
        <h1 className="text-title">{title}</h1>
        {lead && <p className="mt-1.5 text-quiet">{lead}</p>}
      </div>
      {right}
    </header>
  )
}

/** What an empty place says: what to do first. */
export function Empty({ title, lead, children }: { title: string; lead?: string; children?: ReactNode }) {
  return (
    <div className="max-w-[34rem] py-14">
      <p className="font-display text-head font-semibold">{title}</p>
      {lead && <p className="mt-2 mb-5 text-quiet">{lead}</p>}
      {children}
    </div>
  )
}

/** Leads to where photos are taken in hand. */
export function ToPhotos() {
  return (
    <Link to="/workroom/photos" className={asNext}>
      {w.albums.toPhotos}
    </Link>
  )
}

/** A station for what is in hand, while nothing is. */
export function NothingInHand({ lead }: { lead: string }) {
  return (
    <div className="px-[30px] pt-7">
      <Empty title={w.hand.nothing} lead={lead}>
        <ToPhotos />
      </Empty>
    </div>
  )
}
