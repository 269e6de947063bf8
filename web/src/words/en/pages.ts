import { photos } from './plain'

/** Albums and pages. */
export const pageWords = {
  albums: {
    title: 'Albums',
    make: 'New album',
    name: 'Working name',
    makeIt: 'Make',
    none: 'No albums yet.',
    noneLead:
      'An album is an ordered set of photos. Make one and put photos into it from the sheet; or narrow the sheet, and let an album fill itself with what is found.',
    noTitle: (name: string) => `none yet: visitors read “${name}”`,
    publicTitle: 'Public title',
    description: 'Description',
    empty: 'This album is empty.',
    emptyLead: 'Take photos in hand on the sheet, then choose “Put in album”.',
    toPhotos: 'Go to the sheet',
    moveTo: 'Move to position',
    takeOut: 'Take out of this album',
    takenOut: (n: number) => `Took ${photos(n)} out of this album. They stay everywhere else.`,
    moved: (n: number, to: number) => `Moved ${photos(n)} to position ${to.toLocaleString('en')}.`,
    cover: 'Make it the cover',
    covered: 'Cover chosen.',
    position: 'Position',
    move: 'Move',
    page: 'Its page',
    makePage: 'Make a page',
    remove: 'Remove album',
    removed: (name: string, withPage: boolean) =>
      `“${name}” is in the bin${withPage ? ', and a page that shows nothing else with it' : ''}. The photos stay.`,
    howToOrder:
      'Drag a photo to move it; press it to take it in hand, then move several by typing their position.',
    movedBefore: (n: number) => `Moved ${photos(n)}.`,
    howInOrder: 'Press a photo to take it in hand. This album keeps its order by itself.',
    filling: {
      label: 'How this album keeps itself',
      picked: 'Picked by hand, in an order',
      keptBy: 'Picked by hand, kept by',
      fills: 'Fills itself with',
      photos: 'photos',
      all: 'all photos',
      by: 'by',
      atMost: 'at most',
      order: 'Order of this album',
      most: 'Largest number',
      change: 'Change what fills it',
      choose: 'Let it fill itself…',
      hold: 'Hold out of this album',
      held: (n: number) =>
        `Held ${photos(n)} out of this album. ${n === 1 ? 'It stays' : 'They stay'} everywhere else.`,
      heldOut: (n: number) => `${n.toLocaleString('en')} held out`,
      heldLong: 'Held out of this album',
      letIn: 'Let it in again',
      letInAll: 'Let all of them in again',
      letInNow: (n: number) => `Let ${photos(n)} in again.`,
      handPicked: 'Make it hand-picked',
      handPickedNow: 'It is picked by hand now, and keeps what it holds.',
      said: 'It keeps itself so from now on.',
      shuffle: 'Shuffle',
      shuffled: 'Shuffled once. Photos can be moved by hand from here.',
      reverse: 'Turn round',
      reversed: 'Turned the order round.',
      itself: 'Fills itself',
      /** On the sheet. */
      verb: 'fill an album with them…',
      verbAll: 'fill an album…',
      lead: (narrowed: boolean, order: string) =>
        `It takes up ${narrowed ? 'what fits this narrowing' : 'all photos'}, now and from now on, by ${order}.`,
      number: 'At most',
      make: 'Make the album',
      made: (name: string) => `“${name}” fills itself from now on.`,
      band: (name: string) => `What is found here will fill “${name}”`,
      fill: 'Fill it so',
      leave: 'Leave it as it is',
    },
  },
  pages: {
    title: 'Pages',
    none: 'No pages yet.',
    views: (n: number) =>
      n === 0
        ? 'not looked at within thirty days'
        : `looked at ${n === 1 ? 'once' : `${n.toLocaleString('en')} times`} in thirty days`,
    weights: {
      label: 'What the page weighs',
      line: (first: string, seconds: string) => `First screen on a phone ${first}, ${seconds} on a weak line`,
      device: 'On a',
      devices: { phone: 'phone', tablet: 'tablet', desktop: 'desktop' } as Record<string, string>,
      first: 'First screen',
      all: 'All of it',
      lines: ['weak mobile', 'mobile', 'at home'],
      note: 'What a browser is to fetch, every photo in the size for its place; reckoned, not measured. A phone has three pixels where a desktop has one.',
      bytes: (n: number) =>
        n < 1_000_000
          ? `${Math.max(1, Math.round(n / 1000))} KB`
          : `${(n / 1_000_000).toLocaleString('en', { maximumFractionDigits: n < 10_000_000 ? 1 : 0 })} MB`,
      seconds: (s: number) =>
        `${s.toLocaleString('en', { minimumFractionDigits: s < 10 ? 1 : 0, maximumFractionDigits: s < 10 ? 1 : 0 })} s`,
    },
    notes: {
      label: 'Notes in the margin',
      take: { rows: 'Take rows', columns: 'Take columns', grid: 'Take a grid' } as Record<string, string>,
      nothing: 'Visitors find nothing here yet, so it does not show.',
      small: (blurred: number, sharp: number) =>
        blurred > 0 && sharp > 0
          ? `${photos(blurred)} ${blurred === 1 ? 'is' : 'are'} smaller than ${blurred === 1 ? 'its place' : 'their places'}, ${sharp.toLocaleString('en')} more on sharp screens.`
          : blurred > 0
            ? `${photos(blurred)} ${blurred === 1 ? 'is smaller than its place' : 'are smaller than their places'}.`
            : `${photos(sharp)} ${sharp === 1 ? 'is smaller than its place' : 'are smaller than their places'} on sharp screens.`,
      onAny: (device: string) => `on a ${device}`,
      onSharp: (device: string) => `on a sharp ${device}`,
      more: (n: number) => `and ${n.toLocaleString('en')} more`,
      withoutWords: (n: number) =>
        `${photos(n)} without words for those who cannot see ${n === 1 ? 'it' : 'them'}.`,
    },
    noneLead: 'Make one here, or open an album and choose “Make a page”.',
    make: 'New page',
    makeIt: 'Make',
    copy: 'Copy page',
    copied: (title: string) => `Copied. This is “${title}”.`,
    post: 'post',
    postOf: (day: string) =>
      `post of ${new Date(`${day}T12:00`).toLocaleDateString('en-GB', { dateStyle: 'long' })}`,
    itIs: 'It is',
    kind: 'Page or post',
    kinds: { page: 'a page', post: 'a post of' },
    postedOn: 'Day of the post',
    listed: 'Where it is listed',
    lists: {
      listed: 'It stands in lists and, as a post, in the feed',
      unlisted: 'It stands in no list: visitors find it by its address',
    },
    width: 'Width of the page',
    spans: { usual: 'It is as wide as pages usually are', wide: 'It is as wide as the window' },
    head: 'Head of the page',
    heads: { head: 'beneath the site’s name and menu', bare: 'without the site’s name and menu' },
    published: 'published',
    draft: 'draft',
    changed: 'changed since it was published',
    heading: 'Title',
    description: 'A sentence for search engines',
    more: 'About the page',
    address: 'Address',
    set: 'set',
    publish: 'Publish',
    publishChanges: 'Publish changes',
    upToDate: 'Published',
    publishing: (n: number) => (n === 0 ? '' : `Published, it shows ${photos(n)}.`),
    unseen: (hidden: number, some: number, all: number) => {
      const of = `of the ${photos(all)} on it`
      const few = `${some.toLocaleString('en')} ${some === 1 ? 'is' : 'are'}`
      return hidden === 0
        ? `${few} for some alone, ${of}`
        : `No visitor sees ${hidden.toLocaleString('en')} ${of}${some > 0 ? `, and ${few} for some alone` : ''}`
    },
    unseenTitle: 'What visitors see of it',
    seenBy: (n: number) => `Everyone whom the page is for sees ${photos(n)}.`,
    publishedSo: (sentence: string) => `Published. ${sentence}`,
    withdraw: 'Withdraw',
    withdrawn: 'Withdrawn. Only staff can see it.',
    open: 'Open it',
    preview: 'Preview',
    loading: 'The page as it will be',
    widths: ['Desktop', 'Tablet', 'Phone'],
    allWidths: 'All three',
    stale: 'Somebody else changed the same block while you worked. Yours is kept here.',
    reload: 'Take theirs',
    overwrite: 'Keep mine',
    removePage: 'Remove page',
    removed: (name: string) => `“${name}” is in the bin. Albums and photos stay.`,
  },
}
