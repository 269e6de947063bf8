import { photos, plural } from './plain'

/** Tags, kept in order. */
export const tagWords = {
  tags: {
    title: 'Tags',
    lead: 'A tag is one thing, whatever its case: renamed here, it is renamed on every photo.',
    name: 'Name of the tag',
    find: 'Find a tag',
    all: 'All',
    unused: (n: number) => `On no photo (${n.toLocaleString('en')})`,
    onNone: 'on no photo',
    onAlbums: (n: number) => `on ${plural(n, 'album', 'albums')}`,
    drop: (n: number) => `Throw ${plural(n, 'unused tag', 'unused tags')} in the bin`,
    dropped: (n: number) => `Threw ${plural(n, 'unused tag', 'unused tags')} in the bin.`,
    none: 'There are no tags yet.',
    noneLead:
      'Take photos in hand on the sheet and choose “Tag”; keywords in files become tags by themselves.',
    noneFits: 'No tag fits these words.',
    noneUnused: 'Every tag is on some photo.',
    more: (n: number) => `Show more (${n.toLocaleString('en')} left)`,
    renamed: (name: string) => `It is called “${name}” now, on every photo.`,
    remove: 'Remove',
    removed: (name: string) => `“${name}” is in the bin. The photos stay.`,
    makeOne: 'Make one with…',
    become: (name: string) => `What “${name}” becomes`,
    merged: (gone: readonly string[], into: string, n: number) =>
      `${gone.map((name) => `“${name}”`).join(', ')} ${gone.length === 1 ? 'is' : 'are'} “${into}” now, on ${photos(n)}.`,
    twins: 'Likely one',
    twinsLead:
      'They differ in a plural, an accent or a hyphen only. Press the name that stays; photos, rules and filter bars go by it then.',
    allBecome: 'All of them become',
    moreTwins: (n: number) => `Show ${n.toLocaleString('en')} more`,
  },
}
