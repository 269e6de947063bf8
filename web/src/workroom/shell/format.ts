import type { Api } from '../../api/client'
import { w } from '../../words'

const units = ['bytes', 'KB', 'MB', 'GB', 'TB']

/** Bytes in words, in steps of 1,024. */
export function bytes(n: number) {
  let step = 0
  let value = n
  while (value >= 1024 && step < units.length - 1) {
    value /= 1024
    step++
  }
  const digits = step > 1 && value < 10 ? 1 : 0
  return `${value.toLocaleString('en', { maximumFractionDigits: digits, minimumFractionDigits: digits })} ${units[step]}`
}

/** A photo's own wall clock: the server sends it without a zone, and none is added. */
export function takenAt(local: string) {
  const [date = '', time = ''] = local.split('T')
  const [year, month, day] = date.split('-').map(Number)
  const named = new Date(Date.UTC(year ?? 0, (month ?? 1) - 1, day ?? 1)).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    timeZone: 'UTC',
  })
  return `${named}, ${time.slice(0, 5)}`
}

export function moment(iso: string) {
  return new Date(iso).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'long',
    hour: '2-digit',
    minute: '2-digit',
  })
}

export function clockTime(iso: string) {
  return new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
}

/** A day as it is said: 30 June 2027. */
export const day = (iso: string) =>
  new Date(`${iso}T12:00:00Z`).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    timeZone: 'UTC',
  })

/** The day something happened on, as one says it today. */
export function dayOf(iso: string) {
  const then = new Date(iso)
  const midnight = new Date(new Date().setHours(0, 0, 0, 0))
  const days = Math.round((midnight.getTime() - new Date(then).setHours(0, 0, 0, 0)) / 86_400_000)
  if (days === 0) return w.history.today
  if (days === 1) return w.history.yesterday
  return then.toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' })
}

/** Exposure as photographers write it. */
export function exposure(p: Api['Plate']) {
  const parts: string[] = []
  if (p.focalLength) parts.push(`${Math.round(p.focalLength)} mm`)
  if (p.exposureSeconds)
    parts.push(
      p.exposureSeconds >= 0.4
        ? `${+p.exposureSeconds.toFixed(1)} s`
        : `1/${Math.round(1 / p.exposureSeconds)} s`,
    )
  if (p.fNumber) parts.push(`f/${+p.fNumber.toFixed(1)}`)
  if (p.iso) parts.push(`ISO ${p.iso}`)
  return parts
}

/** The longest print at 300 pixels an inch (common practice), whole centimetres. */
export function printSize(width: number, height: number) {
  const cm = (pixels: number) => Math.floor((pixels / 300) * 2.54)
  return [cm(width), cm(height)] as const
}
