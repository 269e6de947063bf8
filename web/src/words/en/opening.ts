import { photos, plural } from './plain'

/** What the site says of itself, whether it is open, and the first hour of a new one. */
export const openingWords = {
  opening: {
    title: 'The site',
    lead: 'What it says of itself, and whether visitors may come in.',
    name: 'What the site is called',
    tagline: 'A sentence beneath it, for visitors and for search engines',
    visitors: 'Visitors',
    isOpen: 'The site is open. Visitors find what is published.',
    isClosed: 'The site is closed. Only staff find it, as it will be.',
    begin: 'They begin at',
    beginLabel: 'Where visitors begin',
    list: 'a list of all pages',
    open: 'Open the site',
    close: 'Close it',
    opened: 'The site is open.',
    closed: 'The site is closed to visitors.',
    meanwhile: 'While it is closed, visitors read',
    meanwhileHint: 'This site is not open yet. Come back soon.',
    search: 'Search engines',
    listedLabel: 'What search engines may do',
    listed: { yes: 'may list it', no: 'are asked not to list it' },
    address: 'Its address',
    addressLead: 'A domain of its own is given to it where the server runs.',
    seen: 'What is seen',
    start: 'The start page',
    shut: 'While it is closed',
    ownerOnly: 'Only the owner changes what stands here.',
    stale: 'Somebody else changed this while you worked.',
    closedLine: 'Closed to visitors',
    hour: {
      title: 'The first hour',
      lead: 'Five steps from here to a site with visitors. Leave whenever you like: what is done stays done.',
      done: 'Visitors have your site.',
      doneLead: 'All that was done here can be changed at its station, at any time.',
      away: 'Put the path away',
      again: 'Take up the first hour again',
      gone: 'The path is put away. It lies under “The site” in the contents of Pages.',
      steps: { name: 'Name it', dress: 'Dress it', fill: 'Fill it', publish: 'Publish', open: 'Open it' },
      dressed: 'chosen',
      filled: photos,
      published: (n: number) => plural(n, 'page', 'pages'),
      isOpen: 'open',
      nameLead: 'It stands at the top of every page, in browsers, and wherever somebody shares a link.',
      dressLead: 'Take the one that comes nearest; all of it can be set otherwise later.',
      asItIs: 'It is good as it is',
      more: 'Set more of it',
      fillLead: 'Whole folders or a ZIP may come. They can be sorted while the rest still arrives.',
      bring: 'Bring in photos',
      publishLead:
        'A starter lays out a page with your own albums at once. Nobody finds it until it is published.',
      needsPhotos:
        'A starter lays out a page with your own albums. Bring in photos first, and put them in an album.',
      starters: 'Begin from a starter',
      drafts: 'See the pages',
      openLead: (shown: number) =>
        shown === 0
          ? 'Nothing is published yet: visitors would find an empty site.'
          : `Visitors will find ${plural(shown, 'page', 'pages')} at`,
    },
  },
}
