// Debian's Chromium, for the audits.
import puppeteer from 'puppeteer-core'

export const open = () =>
  puppeteer.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
  })

/** What an audit found short of everything, a line each. @param {import('lighthouse').Result} result */
export const short = (result) =>
  Object.values(result.categories).flatMap((part) =>
    part.score === 1
      ? []
      : part.auditRefs
          .filter((reference) => reference.weight > 0)
          .map((reference) => result.audits[reference.id])
          .filter((audit) => audit.score !== null && audit.score < 1)
          .map((audit) => `${part.id}: ${audit.title} ${JSON.stringify(audit.details?.items?.slice(0, 3).map((item) => item.node?.snippet ?? item) ?? '')}`),
  )
