import { plural } from './plain'

const many = (n: number) => n.toLocaleString('en')
/** Counted no further than so many. */
const upTo = (n: number, most: number) => (n > most ? `${many(most)} and more` : many(n))

/** What visitors say about photos. */
export const commentWords = {
  comments: {
    title: 'Comments',
    lead: 'What visitors wrote. Others read it once you show it.',
    state: 'Which comments',
    states: {
      waiting: (n: number, most: number) => `Waiting ${upTo(n, most)}`,
      shown: (n: number, most: number) => `Shown ${upTo(n, most)}`,
      refused: (n: number, most: number) => `Refused ${upTo(n, most)}`,
    },
    none: {
      waiting: 'No comment waits for you.',
      shown: 'No comment is shown yet.',
      refused: 'No comment is refused.',
    },
    noneLead:
      'Whether visitors may comment on photos or rate them is said of each album, beside where it stands. It is off until you want it.',
    by: (name: string, when: string) => `${name}, ${when}`,
    toPhoto: (title: string) => `Open ${title}`,
    show: 'Show it',
    showAfterAll: 'Show it after all',
    refuse: 'Refuse it',
    hide: 'Hide it again',
    refuseAll: (n: number, further: boolean) => `Refuse ${further ? 'these' : 'all'} ${many(n)}`,
    showAll: (n: number, further: boolean) => `Show ${further ? 'these' : 'all'} ${many(n)}`,
    shown: (n: number) =>
      n === 1 ? 'The comment is shown.' : `${plural(n, 'comment is', 'comments are')} shown.`,
    refused: (n: number) =>
      n === 1 ? 'The comment is refused: only staff read it.' : `${many(n)} comments are refused.`,
    more: 'Show more',
    remove: 'Remove for good',
    removeAsk: (n: number, most: number) =>
      `Remove ${n === 1 ? '1 refused comment' : `${upTo(n, most)} refused comments`} for good?`,
    removeText: 'Nothing brings them back.',
    removed: 'The refused comments are removed.',
    keep: 'Keep them',
    waits: (n: number) => `${many(n)} to read`,
    onDesk: (n: number) => `${plural(n, 'comment waits', 'comments wait')} to be shown or refused.`,
    read: 'Read them',
    who: { everyone: 'Everyone', known: 'Who came by an entry link or signed in' },
    visitors: 'Visitors',
    whoLabel: 'Who may say something about its photos',
    may: 'may',
    mayLabel: 'What visitors may say about its photos',
    mayWhat: {
      nothing: 'only look at its photos',
      comments: 'comment on its photos',
      ratings: 'rate its photos',
      both: 'comment on its photos and rate them',
    },
  },
}
