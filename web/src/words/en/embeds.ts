/** Photos on other websites. */
export const embedWords = {
  embeds: {
    verb: 'On another website',
    title: (of: string) => `“${of}” on another website`,
    lead: 'One line shows these photographs within a page of another website, as they are now and whenever they change. A press on one leads here.',
    stand: 'They stand',
    layout: 'Layout on the other website',
    own: 'as on their page',
    size: 'How large',
    sizes: { usual: 'as large as there', small: 'smaller', large: 'larger' },
    atMost: 'at most',
    most: 'How many at most',
    ofThem: 'of them.',
    line: 'The line',
    paste: 'Paste it where the other website takes HTML.',
    copy: 'Copy the line',
    copied: 'Copied. Paste it where the other website takes HTML.',
    byHand: 'Your browser did not let it be copied. It is marked: copy it with the keyboard.',
    address: 'Some websites need no line. There the address alone does it:',
    preview: 'On the other website',
    widths: ['In a wide page', 'In a column', 'On a phone'],
    unseen: 'It cannot stand on another website',
    unseenLead:
      'Not everybody may see this, or there are no photographs on it. What stands elsewhere is what everybody sees here.',
  },
}
