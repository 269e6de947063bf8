/** Pages laid out ready to begin from. */
export const starterWords = {
  starters: {
    title: 'Starters',
    lead: 'Pages laid out ready to begin from, with your own albums in their places. Each becomes a draft: nobody finds it until you publish it.',
    verb: 'Begin from a starter',
    empty: 'There are no photos in albums yet: the places stay empty until there are.',
    names: {
      eventReport: 'Event report',
      classPage: 'Class page',
      portfolio: 'Portfolio',
      seasonOverview: 'Season overview',
      salesGallery: 'Sales gallery',
      contact: 'Contact',
      clubHome: 'Club home',
    },
    says: {
      eventReport: 'The day over its best wide photo, what happened, and every photo of it.',
      classPage: 'What a class did, one album after the other, a few photos of each.',
      portfolio: 'The highest rated of several albums, large, and nothing else.',
      seasonOverview: 'The year’s albums as covers, then all their photos, a button for each album.',
      salesGallery: 'Photos with their titles, and how somebody orders one.',
      contact: 'How you are reached, beside a photo.',
      clubHome: 'Your name over a photo, the newest albums, and a strip of what came last.',
    },
    of: 'With',
    photoOf: 'With a photo of',
    none: 'no album yet',
    others: (n: number) => `and ${n} more`,
    make: 'Make this page',
    made: (title: string) => `“${title}” is laid out. It is a draft.`,
    home: (title: string) =>
      `“${title}” is laid out. It is a draft; once published, visitors can begin at it: say so under “The site”.`,
  },
}
