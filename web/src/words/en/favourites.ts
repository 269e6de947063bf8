import { plural } from './plain'

const many = (n: number) => n.toLocaleString('en')

/** What visitors may do with an album's photos besides seeing them, and what they chose. */
export const favouriteWords = {
  offers: {
    label: 'What visitors may do with its photos',
    everyone: 'Everyone may save',
    everyoneLabel: 'In what form everyone may save its photos',
    known: '; who came by an entry link or signed in may save',
    knownLabel: 'In what form those may save its photos who came by an entry link or signed in',
    forms: { nothing: 'nothing', large: 'its photos, large', full: 'its photos, in full size' },
    notAsked: 'and is asked for nothing',
    asked: (most: number | null, until: string | null | undefined) =>
      `and is asked for ${most === null ? 'favourites' : most === 1 ? 'one favourite' : `up to ${many(most)} favourites`}${until ? ` until ${until}` : ''}`,
    ask: 'Ask them for favourites',
    askLead:
      'They mark photos on the album’s own page and wherever it stands alone in a block, on any device, and send you what they chose. Who comes by the same link chooses together; each member by themselves.',
    most: 'At most so many',
    mostHint: 'any number',
    until: 'Until',
    asks: 'What you ask them',
    asksHint: 'Please mark the photographs that you would have.',
    sayAsk: 'Ask for them',
    sayChange: 'Say so',
    stop: 'Ask no longer',
    said: 'Visitors have it so from now on.',
  },
  reserves: {
    label: 'For whom it is',
    nothing: 'What is offered is for everyone who sees its photos.',
    said: (parts: string[]) => `Of what is offered, reserved: ${parts.join('; ')}.`,
    for: (doing: string, whom: string) => `${doing} for ${whom}`,
    reserve: 'Reserve it for some',
    change: 'Change',
    done: 'Done',
    doings: {
      save: 'saving',
      saveFull: 'saving in full size',
      talk: 'saying something',
      choose: 'choosing favourites',
    },
    lines: {
      save: 'Saving its photos is for',
      saveFull: 'In full size, for',
      talk: 'Comments and ratings, for',
      choose: 'Choosing favourites, for',
    },
    /** After “reserved for”. */
    whom: {
      everyone: 'everyone',
      known: 'visitors who came by an entry link or signed in',
      members: 'all members',
      /** Where those it was for are gone. */
      chosen: 'nobody who is still there',
      nobody: 'nobody',
    },
    choices: {
      everyone: 'everyone to whom it is offered',
      known: 'visitors who came by an entry link or signed in',
      members: 'all members',
      chosen: 'groups and members by name',
      nobody: 'nobody',
    },
  },
  favourites: {
    title: 'Favourites',
    lead: 'What visitors chose where an album asked them to.',
    ofAlbum: (album: string) => `Chosen of “${album}”`,
    all: 'Of all albums',
    none: 'Nobody has chosen anything yet.',
    noneLead:
      'Open an album and have it ask for favourites, beside what visitors may save. Whoever comes by an entry link, and members, can choose then.',
    toAlbums: 'Go to the albums',
    which: 'Who chose',
    isNew: 'new',
    member: 'member',
    client: 'client',
    open: (name: string, album: string) => `Favourites of ${name} of “${album}”`,
    inAlbum: (n: number, sent: number) =>
      `${plural(n, 'has chosen', 'have chosen')}${sent > 0 ? `, ${many(sent)} sent` : ''}`,
    look: 'Look at them',
    takeUp: (n: number) => (n === 1 ? 'Take it in hand' : `Take all ${many(n)} in hand`),
    taken: (n: number) => (n === 1 ? 'It is in hand.' : `${many(n)} photos are in hand.`),
    list: 'File names as CSV',
    reopen: 'Let them change it again',
    reopened: (name: string) => `${name} can choose on.`,
    note: 'Noted',
    nothing: 'Nothing is chosen just now.',
    toPhoto: (name: string) => `Open ${name}`,
    more: 'Show more',
    sentBy: (name: string, album: string) => `${name} chose from “${album}”`,
    line: (n: number, most: number | null | undefined, changed: string, sent: string | null | undefined) =>
      `${most ? `${many(n)} of ${many(most)}` : many(n)} chosen, ${sent ? `sent ${sent}` : `last changed ${changed}`}.`,
    others: (n: number) => `and ${many(n)} more`,
    waits: (n: number) => `${many(n)} sent`,
    of: (album: string) => `of “${album}”`,
  },
}
