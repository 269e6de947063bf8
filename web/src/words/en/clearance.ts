import { photos, plural } from './plain'

const many = (n: number) => n.toLocaleString('en')

/** Whether photos may be shown to visitors at all. */
export const clearanceWords = {
  clearance: {
    title: 'Clearance',
    lead: 'What visitors never see, whatever page it stands on.',
    held: (n: number) => (n === 0 ? 'No photo is held back.' : `${photos(n)} held back from visitors.`),
    see: 'See which',
    heldBack: (n: number) => `${photos(n)} held back: not cleared.`,
    heldShort: (n: number) => `${many(n)} held`,
    visitorsSee: 'Visitors see',
    needed: {
      label: 'What visitors see',
      no: 'photos that nobody has refused',
      yes: 'only photos that are cleared',
    },
    neededNow: {
      no: 'Visitors see photos of which nobody has said that they are not cleared.',
      yes: 'Visitors see only photos that are cleared.',
    },
    forOwner: 'The owner decides that.',
    persons: 'Persons',
    personsLead:
      'What a person says counts for every photo that names them, also for those still to come. A no wins over everything.',
    find: 'Find a person',
    which: 'Which persons',
    groups: {
      all: (n: number) => `All ${many(n)}`,
      no: (n: number) => `Say no ${many(n)}`,
      yes: (n: number) => `Say yes ${many(n)}`,
      nothing: (n: number) => `Nothing said ${many(n)}`,
    },
    none: {
      all: 'Nobody is on the list, and no photo names anybody.',
      no: 'Nobody says no.',
      yes: 'Nobody says yes yet.',
      nothing: 'Everybody has said something.',
    },
    noneLead: 'Take in a list, or name people on photos: whoever is named stands here.',
    notFound: (name: string) => `Nobody is called “${name}”.`,
    putOn: (name: string) => `Put “${name}” on the list`,
    noPhotos: 'on no photo yet',
    says: {
      '': 'Nothing was said',
      yes: 'Says yes',
      no: 'Says no',
      ended: 'Said yes',
    } as Record<string, string>,
    until: (day: string) => `until ${day}`,
    of: (name: string) => `What ${name} says`,
    ofPhoto: 'Is it cleared?',
    choose: { yes: 'Yes', no: 'No', '': 'Nothing was said' },
    lastDay: 'Its last day; empty for no end',
    whoSays: 'Who says so, and how you know',
    whoExample: 'her mother, by letter of 3 May',
    write: 'Write it',
    strike: 'Strike off the list',
    struck: (name: string) => `${name} is struck off the list.`,
    reaches: (n: number) => (n === 0 ? '' : ` ${photos(n)} ${n === 1 ? 'follows' : 'follow'}.`),
    wrote: (name: string) => `Wrote what ${name} says.`,
    further: (n: number) => `Show ${many(n)} more`,
    list: 'A list',
    listLead:
      'A spreadsheet as CSV: one row a person, the columns “name” (or “first name” and “last name”), “says” (yes or no), and if you like “until” (2027-06-30) and “said by”. Who is not in it stays as they are.',
    take: 'Take in a list',
    another: 'Take in another',
    save: 'Save the list as CSV',
    found: (rows: number, read: number, yes: number, no: number) =>
      `${plural(rows, 'row', 'rows')}, ${plural(read, 'person', 'persons')}: ${many(yes)} ${yes === 1 ? 'says' : 'say'} yes, ${many(no)} ${no === 1 ? 'says' : 'say'} no.`,
    changes: (n: number) =>
      n === 0
        ? 'All of it is written here already.'
        : `${plural(n, 'person is', 'persons are')} new or ${n === 1 ? 'says' : 'say'} something else.`,
    lost: (n: number) =>
      n === 0
        ? 'No photo leaves visitors’ sight.'
        : `${photos(n)} ${n === 1 ? 'leaves' : 'leave'} visitors’ sight.`,
    gained: (n: number) => (n === 0 ? '' : `${photos(n)} ${n === 1 ? 'comes' : 'come'} into their sight.`),
    writeList: (n: number) => `Write what ${plural(n, 'person says', 'persons say')}`,
    tookIn: (n: number) => `Wrote what ${plural(n, 'person says', 'persons say')}.`,
    /** Of photos. */
    verb: 'Clear',
    clear: 'Cleared',
    notClear: 'Not cleared: no visitor sees it',
    notClearMany: 'Not cleared: no visitor sees them',
    takeBack: 'Nothing said',
    doIt: 'Say so',
    cleared: (n: number) => `${photos(n)} cleared.`,
    notCleared: (n: number) => `${photos(n)} not cleared: no visitor sees ${n === 1 ? 'it' : 'them'}.`,
    refusedAll: (n: number) =>
      `On ${n === 1 ? 'one' : many(n)} of them somebody says no: no visitor sees ${n === 1 ? 'it' : 'them'}.`,
    tookBack: (n: number) => `Took back what was said of ${photos(n)}.`,
  },
}
