const many = (n: number) => n.toLocaleString('en')
/** Counted no further than so many. */
const upTo = (n: number, most: number) => (n > most ? `${many(most)} and more` : many(n))

/** What is recorded of visitors whom the site knows. */
export const recordWords = {
  records: {
    title: 'Records',
    lead: 'What members and clients opened and saved, and who was turned away. Of everyone else nothing is recorded.',
    of: (name: string) => `Of ${name}`,
    everybody: 'Of everybody',
    which: 'Which records',
    tabs: {
      all: () => 'All',
      opened: (n: number, most: number) => `Opened ${upTo(n, most)}`,
      saved: (n: number, most: number) => `Saved ${upTo(n, most)}`,
      refused: (n: number, most: number) => `Turned away ${upTo(n, most)}`,
    },
    did: {
      opened: 'opened',
      saved: 'saved',
      savedAll: 'saved all of',
      refused: 'was turned away from',
    },
    somebody: 'Somebody',
    in: 'of',
    gone: {
      page: 'a page that is gone',
      album: 'an album that is gone',
      category: 'a category that is gone',
    },
    photo: 'a photo',
    from: (network: string) => `from ${network}`,
    none: 'Nothing is recorded yet.',
    noneLead: 'As soon as a member or the holder of an entry link opens something, it stands here.',
    noneOff: 'Nothing is recorded: it is switched off.',
    keptLabel: 'For how long records are kept',
    kept: (days: number) => (days === 0 ? 'Nothing is recorded' : `Kept for ${many(days)} days`),
    keptAsk: 'Forget what is recorded?',
    keptText: (days: number) =>
      days === 0
        ? 'All records are removed now, and nothing is recorded from then on. Nothing brings them back.'
        : `Records older than ${many(days)} days are removed now. Nothing brings them back.`,
    keptSay: 'Forget them',
    keptNot: 'Leave it',
    more: 'Show more',
    see: 'What they did',
  },
}
