/** The keys of every view, for the page that lists them. */
export interface KeyGroup {
  readonly title: string;
  readonly keys: readonly (readonly [keys: string, words: string])[];
}

export const KEY_GROUPS: readonly KeyGroup[] = [
  {
    title: 'Everywhere',
    keys: [
      ['Ctrl K', 'Find a value, a step or a command'],
      ['F1', 'Show the keys'],
      ['Ctrl Z', 'Undo'],
      ['Ctrl Y', 'Redo'],
      ['Escape', 'Close or cancel what is open'],
    ],
  },
  {
    title: 'Ledger',
    keys: [
      ['↑ ↓', 'Go to the next or previous row'],
      ['Enter, F2', 'Edit the formula; typing begins a new one'],
      ['Shift F2', 'Rename'],
      ['Alt Enter', 'Edit note, unit, limits and tolerance; Escape goes back to the row'],
      ['Shift F10', 'Open the menu of the row'],
      ['← →', 'Fold or unfold a step'],
      ['Shift ↑ ↓', 'Select several rows, to copy, paste, fill down, pin or delete'],
      ['Ctrl A', 'Select all values'],
      ['Ctrl C, Ctrl V', 'Copy rows as a table; paste a table'],
      ['Ctrl D', 'Fill the formula down'],
      ['Alt ↑ ↓', 'Move the row'],
      ['Delete', 'Delete'],
    ],
  },
  {
    title: 'Value box',
    keys: [
      ['Enter', 'Accept; in a new value, go on with the next'],
      ['Tab', 'Accept the completion, else go to the next box'],
      ['↑ ↓', 'Choose a completion'],
      ['Escape', 'Close the list, then cancel'],
      ['Alt wheel', 'Change a plain number'],
    ],
  },
  {
    title: 'Sketch',
    keys: [
      ['L', 'Lines'],
      ['R', 'Rectangle'],
      ['C', 'Circle'],
      ['A', 'Arc'],
      ['T', 'Arc going on from an end'],
      ['S', 'Slot'],
      ['P', 'Regular polygon'],
      ['D', 'Dimension'],
      ['X', 'Trim'],
      ['E', 'Extend'],
      ['G', 'Fillet a corner'],
      ['O', 'Offset'],
      ['M', 'Mirror'],
      ['N', 'Repeat'],
      ['K', 'Take an edge or another sketch'],
      ['Arrows, Home, Space', 'Move the cross, put it on the origin, click there'],
      ['Ctrl C, Ctrl V', 'Copy and paste curves'],
      ['Ctrl A', 'Select all curves'],
      ['Delete', 'Delete what is selected'],
      ['F', 'Fit'],
    ],
  },
  {
    title: 'Picture of a part or an assembly',
    keys: [
      ['1 to 6', 'Front, right, top, back, left, bottom'],
      ['0', 'Corner'],
      ['F', 'Fit'],
      ['+ −', 'Zoom'],
      ['Drag', 'Turn about what is under the pointer'],
      ['Right drag, Shift drag', 'Move'],
      ['Wheel', 'Zoom to the pointer'],
      ['Double click', 'Fit one body'],
      ['Alt click', 'List the faces behind the pointer'],
      ['Drag beside a dimension', 'Move its text'],
    ],
  },
];

/** The groups with the keys that have every word of the search in them, in the key, the words or the title. */
export function searchKeys(text: string): KeyGroup[] {
  const wanted = text.toLowerCase().split(/\s+/).filter(Boolean);
  return KEY_GROUPS.map(({ title, keys }) => ({
    title,
    keys: keys.filter((key) => wanted.every((word) => [title, ...key].join(' ').toLowerCase().includes(word))),
  })).filter(({ keys }) => keys.length > 0);
}
