/** Who can see a thing by name, what somebody can see, and the site seen as they have it. */
export const viewerWords = {
  viewers: {
    byName: 'Who can, by name',
    title: (name: string) => `Who can see “${name}”, by name`,
    anybody: 'Visitors who have not signed in',
    entry: {
      link: (name: string) => `Whoever has the link for ${name}`,
      passcode: (name: string) => `Whoever has the passcode for ${name}`,
    },
    group: (name: string) => `The group ${name}`,
    sees: (can: boolean) => (can ? 'can see it' : 'cannot'),
    of: (n: number, all: number) =>
      all === 0
        ? 'nobody is in it'
        : n === all
          ? `all ${all.toLocaleString('en')}`
          : n === 0
            ? `none of ${all.toLocaleString('en')}`
            : `${n.toLocaleString('en')} of ${all.toLocaleString('en')}`,
    members: 'Members',
    noMembers: 'The site has no members yet.',
    can: (n: number) => `Can see it (${n.toLocaleString('en')})`,
    cannot: (n: number) => `Cannot (${n.toLocaleString('en')})`,
    search: 'Name or address',
    noneLike: 'Nobody like this.',
    noneCan: 'No member can see it.',
    noneCannot: 'Every member can see it.',
    more: (n: number) => `Show ${n} more`,
    staff: (names: readonly string[]) => `Staff see everything: ${names.join(', ')}.`,
    seeAs: 'See as',
    seeAsOf: (name: string) => `See the site as ${name}`,
    whatSees: (name: string) => `What can ${name} see?`,
    what: 'What they can see',
    open: 'All that is for everyone',
    everything: 'everything',
    thing: {
      page: (name: string) => `The page ${name}`,
      album: (name: string) => `The album ${name}`,
      category: (name: string) => `The category ${name}`,
    },
    yes: 'can see it',
    nothing: 'nothing',
    photos: (n: number, all: number) =>
      all === 0
        ? 'it holds no photos yet'
        : n === all
          ? `all ${all.toLocaleString('en')} photos`
          : `${n.toLocaleString('en')} of ${all.toLocaleString('en')} photos`,
    nothingGuarded: 'Nothing else: all that there is is for everyone.',
  },
}
