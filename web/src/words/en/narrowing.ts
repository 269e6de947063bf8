import { photos, plural } from './plain'

const series = (word: string) => (all: readonly string[]) =>
  all.length < 2 ? all.join() : `${all.slice(0, -1).join(', ')} ${word} ${all.at(-1)}`

type Kind =
  | 'category'
  | 'tag'
  | 'people'
  | 'album'
  | 'intake'
  | 'source'
  | 'taken'
  | 'decision'
  | 'clearance'
  | 'rating'
  | 'shape'
  | 'pixels'
  | 'camera'
  | 'lens'
  | 'missing'
  | 'corrected'

/** What a sheet is narrowed to, as a sentence, and the choices it is made of. */
export const narrowingWords = {
  narrowing: {
    photos,
    label: 'What the sheet shows',
    narrow: 'narrow…',
    and: 'and…',
    done: 'Done',
    keep: 'keep under a name…',
    keptAs: (name: string) => `kept as “${name}”`,
    name: 'Name',
    keepIt: 'Keep it',
    rename: 'Rename it',
    letGo: 'Let it go',
    kept: (name: string) => `Kept “${name}”; it stands in the contents.`,
    renamed: (name: string) => `It is called “${name}” now.`,
    letGone: 'Let the narrowing go; its photos stay.',
    saying: (text: string) => `with “${text}”`,
    or: series('or'),
    andAll: series('and'),
    more: (n: number) => `${n.toLocaleString('en')} others`,
    span: (from: string, to: string) => `${from} to ${to}`,
    /** A time taken as a sentence says it: in a month or a year, on a day. */
    when: (words: string, choice: string) =>
      choice.includes('--') ? words : `${choice.length === 10 ? 'on' : 'in'} ${words}`,
    under: (pixels: string) => `under ${pixels}`,
    over: (pixels: string) => `${pixels} and more`,
    gone: 'something that is gone',
    watched: (name: string) => `the watched folder ${name}`,
    scanner: (name: string) => `the scanner ${name}`,
    inBin: (n: number) => `${n.toLocaleString('en')} in the bin`,
    /** What the bin shows: photos that are found there, or all that lies in it. */
    binned: (n: number) => `${photos(n)} in the bin`,
    allBinned: (n: number) => `Everything in the bin, ${plural(n, 'thing', 'things')}`,
    outside: 'look among those that are not in the bin',
    begun: (iso: string) =>
      new Date(iso).toLocaleString('en-GB', {
        day: 'numeric',
        month: 'long',
        year: 'numeric',
        hour: '2-digit',
        minute: '2-digit',
      }),
    kinds: {
      category: 'Category',
      tag: 'Tag',
      people: 'People shown',
      album: 'Album',
      intake: 'Intake',
      source: 'Source',
      taken: 'Taken',
      decision: 'Decision',
      clearance: 'Clearance',
      rating: 'Rating',
      shape: 'Shape',
      pixels: 'Longer edge',
      camera: 'Camera',
      lens: 'Lens',
      missing: 'Lacking',
      corrected: 'Corrected',
    } satisfies Record<Kind, string>,
    /** How a part begins of which nothing is chosen yet. */
    begins: {
      category: 'of…',
      tag: 'tagged…',
      people: 'showing…',
      album: 'in…',
      intake: 'brought in on…',
      source: 'from…',
      taken: 'taken…',
      decision: 'decided…',
      clearance: 'cleared or not…',
      rating: 'rated…',
      shape: 'of the shape…',
      pixels: 'as long as…',
      camera: 'taken with…',
      lens: 'taken through…',
      missing: 'without…',
      corrected: 'corrected…',
    } satisfies Record<Kind, string>,
    /** The choice of having none, among others. */
    none: {
      category: 'no category',
      tag: 'no tag',
      people: 'nobody named',
      album: 'no album',
      source: 'nowhere one knows of',
      taken: 'no date',
      decision: 'undecided',
      clearance: 'nobody has said',
      camera: 'no camera named',
      lens: 'no lens named',
      corrected: 'not at all',
    } as Partial<Record<Kind, string>>,
    /** The same where it is all that is said. */
    onlyNone: {
      category: 'in no category',
      tag: 'untagged',
      people: 'with nobody named',
      album: 'in no album',
      source: 'from nowhere one knows of',
      taken: 'without a date',
      decision: 'not yet decided',
      clearance: 'that nobody has cleared yet',
      camera: 'with no camera named',
      lens: 'with no lens named',
      corrected: 'as they came in',
    } as Partial<Record<Kind, string>>,
    choices: {
      source: {
        computer: 'somebody’s computer',
        sent: 'what people sent in',
        watched: 'a watched folder',
        scanner: 'a scanner',
      },
      decision: { keep: 'kept', doubt: 'in doubt', leave_out: 'left out' },
      clearance: { cleared: 'cleared', not_cleared: 'not cleared' },
      rating: { 0: 'not rated', 1: '1', 2: '2', 3: '3', 4: '4', 5: '5' },
      shape: { landscape: 'landscape', portrait: 'portrait', square: 'square', panorama: 'panorama' },
      missing: { title: 'a title', alt: 'a description', credit: 'a credit', clearance: 'clearance' },
      corrected: {
        turned: 'turned',
        straightened: 'straightened',
        cropped: 'cropped',
        toned: 'made brighter or darker',
        grey: 'made black and white',
        focus: 'given a focus',
        print: 'cut from a scan',
      },
    } as Partial<Record<Kind, Record<string, string>>>,
    says: {
      category: (of, not, none) => (not ? (none ? 'in some category' : `not of ${of}`) : `of ${of}`),
      tag: (of, not, none) => (not ? (none ? 'tagged' : `not tagged ${of}`) : `tagged ${of}`),
      people: (of, not, none) =>
        not ? (none ? 'with somebody named' : `not showing ${of}`) : `showing ${of}`,
      album: (of, not, none) => (not ? (none ? 'in some album' : `not in ${of}`) : `in ${of}`),
      intake: (of, not) => `${not ? 'not ' : ''}brought in on ${of}`,
      source: (of, not, none) =>
        not && none ? 'from somewhere one knows of' : `${not ? 'not ' : ''}from ${of}`,
      taken: (of, not, none) => (not ? (none ? 'with a date' : `not taken ${of}`) : `taken ${of}`),
      decision: (of, not, none) => (not ? (none ? 'decided' : `not ${of}`) : of),
      clearance: (of, not, none) =>
        not ? (none ? 'of whose clearance somebody has said something' : `other than ${of}`) : of,
      rating: (of, not) => (of === 'not rated' ? (not ? 'rated' : of) : `${not ? 'not ' : ''}rated ${of}`),
      shape: (of, not) => (not ? `not ${of}` : of),
      pixels: (of, not) => `${not ? 'not ' : ''}${of} pixels long`,
      camera: (of, not) => `${not ? 'not ' : ''}taken with ${of}`,
      lens: (of, not) => `${not ? 'not ' : ''}taken through ${of}`,
      corrected: (of, not, none) => (not ? (none ? 'corrected' : `not ${of}`) : of),
      missing: (of, not) => (not ? `with ${of}` : `without ${of}`),
    } satisfies Record<Kind, (of: string, not: boolean, none: boolean) => string> as Record<
      Kind,
      (of: string, not: boolean, none: boolean) => string
    >,
    find: (kind: string) => `${kind} to look for`,
    noChoice: 'None of these photos has one.',
    noDates: 'None of these photos says when it was taken.',
    andMore: (n: number) => `and ${n.toLocaleString('en')} more; type to find them`,
    turn: 'Turn round: all but these',
    plainly: 'Turn back: only these',
    drop: 'Leave this part out',
  },
}
