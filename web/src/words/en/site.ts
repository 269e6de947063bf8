/** What visitors read besides the site’s own words. */
export const siteWords = {
  close: 'Close',
  previous: 'Previous photo',
  next: 'Next photo',
  showing: (shown: number, total: number) =>
    shown === total ? `${total} photographs` : `${shown} of ${total} photographs`,
  part: (from: number, to: number, all: number) => `${from} to ${to} of ${all} photographs`,
  page: 'Page',
  of: (n: number, all: number) => `${n} of ${all}`,
  stop: 'Stop',
  moveOn: 'Let it move on',
  untitled: 'Untitled photograph',
  viewer: 'Photo',
  larger: 'Larger',
  whole: 'Whole',
  play: 'Play',
  copyLink: 'Copy link',
  copied: 'Copied',
  save: 'Save',
  turns: 'Turns round first: press twice to go on.',
  failed: 'The photos could not be narrowed just now. Try again.',
}
