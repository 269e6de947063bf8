/** The site's menu. */
export const menuWords = {
  menu: {
    title: 'Menu',
    lead: 'What stands at the head of every page. A change is live at once, and undo takes it back.',
    none: 'No menu yet.',
    noneLead: 'Without one, visitors find their way from the start page. Add the page that matters most.',
    add: 'Add an entry',
    words: 'Words of the entry',
    asCalled: 'as it is called',
    leads: 'leads to',
    drag: (name: string) => `Move ${name}`,
    beneath: 'Put beneath the one above',
    out: 'Put on its own',
    remove: 'Remove',
    private: 'Visitors cannot open this yet, so they do not see it.',
    saved: 'Saved, and live.',
    stale: 'Somebody else changed the menu while you worked.',
    reload: 'Take theirs',
    overwrite: 'Write mine over it',
    entry: 'the entry',
  },
}
