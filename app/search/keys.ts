import { actionTitles } from '../yard/play/controls'

/** Keys that work on every page of a crate, and those of single places, as the sheet lists them. */
export const pageKeys = {
  undo: '$mod+z',
  redo: ['$mod+Shift+z', '$mod+y'],
  search: '$mod+k',
  sheet: '?',
} as const

const isMac = (): boolean => /Mac|iPhone|iPad/.test(globalThis.navigator?.platform ?? '')

/** “$mod+Shift+z” → “Ctrl + Shift + Z”. */
export const shownKeys = (keys: string): string =>
  keys
    .split('+')
    .map((key) => (key === '$mod' ? (isMac() ? '⌘' : 'Ctrl') : key.length === 1 ? key.toUpperCase() : key))
    .join(' + ')

export interface KeyGroup {
  title: string
  keys: { keys: string; does: string }[]
}

/** All keys, for the sheet. */
export const keyGroups = (): KeyGroup[] => [
  {
    title: 'Everywhere in a crate',
    keys: [
      { keys: shownKeys(pageKeys.undo), does: 'Undo' },
      { keys: pageKeys.redo.map(shownKeys).join(' or '), does: 'Redo' },
      { keys: shownKeys(pageKeys.search), does: 'Search items, steps, findings and screens' },
      { keys: '?', does: 'This sheet' },
      { keys: 'Esc', does: 'Close what is open' },
    ],
  },
  {
    title: 'In the yard, when it has the focus',
    keys: [
      { keys: '← → ↑ ↓', does: 'Turn the view' },
      { keys: '+ −', does: 'Closer and further' },
    ],
  },
  {
    title: 'On a slip of the belt',
    keys: [
      { keys: 'Enter', does: 'Open its card' },
      { keys: 'M, then ← →', does: 'Pick it up and move it; M or Enter puts it down' },
    ],
  },
  {
    title: 'While the figure walks',
    keys: [{ keys: '← → ↑ ↓', does: 'Walk' }, ...actionTitles.map(({ title, key }) => ({ keys: key, does: title }))],
  },
  {
    title: 'On the line between two panels',
    keys: [{ keys: '← → ↑ ↓', does: 'Change their sizes' }],
  },
]
