/** Who of the visitors may see a thing, and what lets them in. */
export const audienceWords = {
  audience: {
    why: 'Why',
    change: 'Change who sees this',
    title: (name: string) => `Who sees “${name}”?`,
    who: 'Who sees it',
    choices: {
      everyone: ['Everyone', 'Whoever comes to the site finds it.'],
      withLink: [
        'Everyone with the link',
        'It gets an address that nobody guesses, and no list, site map or search engine has it. It stays where you put it on a page by hand.',
      ],
      holders: ['Holders of an entry link or passcode', 'Nobody else finds it, nor learns what it holds.'],
      members: ['Members', 'Whoever signs in. Others learn that it is for members, and no more.'],
      chosen: ['Groups and members by name', 'Only these, once they have signed in.'],
      staff: ['Staff only', 'For visitors it is as if it were not there.'],
    } as const,
    /** The same of a photo by itself, which only narrows where it stands. */
    ofPhoto: {
      everyone: 'Whoever can see where it stands.',
      members: 'Of those who can see where it stands, whoever has signed in.',
      chosen: 'Of those who can see where it stands, only these, once they have signed in.',
      staff: 'For visitors it is as if it were not there.',
    } as const,
    verb: 'Who sees them',
    whoSeesThem: (n: number) =>
      n === 1 ? 'Who sees this photo?' : `Who sees these ${n.toLocaleString('en')} photos?`,
    photosLead: (n: number) =>
      `What is said here is said of ${n === 1 ? 'the photo itself, and goes with it' : 'the photos themselves, and goes with them'} wherever ${n === 1 ? 'it stands' : 'they stand'}. It lets in nobody whom the places do not let in.`,
    saidOfPhotos: (n: number) =>
      n === 0
        ? 'They have this audience already.'
        : n === 1
          ? 'One photo has another audience now.'
          : `${n.toLocaleString('en')} photos have another audience now.`,
    choose: 'Choose a group or a member',
    choosing: 'Name of a group or a member',
    aGroup: 'group',
    nobodyChosen: 'Nobody is chosen yet.',
    leaveOut: (name: string) => `Leave out ${name}`,
    besides: 'Besides',
    time: 'Only in a time',
    from: 'from',
    until: 'until',
    always: 'At any time',
    say: 'Say so',
    said: (name: string) => `“${name}” has another audience now.`,
    link: 'The link',
    linkLead:
      'Whoever has it sees the album, and may hand it on. For another link, make it be for staff, and then for everyone with the link once more.',
    entries: 'Entry links and passcodes',
    entriesLead: 'Each for somebody of its own: then you can withdraw one and leave the others.',
    entriesOff: 'They open it only while it is for their holders.',
    none: 'Nobody is let in yet.',
    forWhom: 'For whom',
    forWhomHint: 'The Harrow family',
    kind: 'What lets them in',
    kinds: { link: 'a link', passcode: 'a passcode' },
    limits: 'With limits',
    noLimits: 'Without limits',
    good: 'Good until',
    goodHint: 'empty: until you withdraw it',
    most: 'At most so many browsers',
    mostHint: 'empty: any number',
    make: (kind: string) => `Make ${kind}`,
    copy: { link: 'Copy the link', passcode: 'Copy the passcode' },
    copied: 'Copied.',
    byHand: 'Copy it with your keys.',
    print: 'Print',
    uses: (n: number, most: number | null) =>
      n === 0
        ? most
          ? `not used yet, ${most} at most`
          : 'not used yet'
        : `${n === 1 ? 'one browser' : `${n.toLocaleString('en')} browsers`} came in${most ? ` of ${most}` : ''}`,
    last: (when: string) => `last ${when}`,
    ends: (when: string) => `good until ${when}`,
    over: 'lets nobody in any more',
    whoCame: 'Who came in',
    came: (when: string, browser: string, network: string) => `${when}: ${browser}, from ${network}`,
    browser: 'a browser',
    withdraw: 'Withdraw',
    withdrawAsk: (name: string) => `Withdraw it from ${name}? Whoever came in with it is out at once.`,
    keep: 'Keep it',
    withdrawn: (name: string) => `Withdrawn from ${name}.`,
  },
}
