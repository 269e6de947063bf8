// Debian's Chromium, for the audits.
import puppeteer from 'puppeteer-core'

export const open = () =>
  puppeteer.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
  })

/**
 * What an audit found short of everything, a line each; what could not be judged is short, too.
 * @param {import('lighthouse').Result} result
 */
export const short = (result) =>
  Object.values(result.categories)
    .filter((part) => part.score !== 1)
    .flatMap((part) => [
      `${part.id}: ${part.score === null ? 'not judged' : Math.round(part.score * 100)}`,
      ...part.auditRefs
        .filter((reference) => reference.weight > 0)
        .map((reference) => result.audits[reference.id])
        .filter((audit) => (audit.score === null ? audit.scoreDisplayMode === 'error' : audit.score < 1))
        .map((audit) => `${part.id}: ${audit.title} ${audit.errorMessage ?? JSON.stringify(audit.details?.items?.slice(0, 3).map((item) => item.node?.snippet ?? item) ?? '')}`),
    ])
