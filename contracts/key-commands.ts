/**
 * What is done by keys, and where. A key is its modifiers in the order Ctrl, Alt, Shift (⌘ counts as Ctrl) and
 * the name that `KeyboardEvent.key` gives it, letters as capitals: `Ctrl+Shift+Z`, `Alt+ArrowUp`, `?`.
 */
export const keyPlaces = {
  anywhere: 'Anywhere',
  song: 'In any view of a song',
  sheet: 'Track sheet',
  notes: 'Notes',
  events: 'Event list',
  tempo: 'Tempo line',
  harmony: 'Harmony',
  arrange: 'Running order',
  shelf: 'Shelf',
} as const;
export type KeyPlace = keyof typeof keyPlaces;

interface KeyCommand {
  readonly title: string;
  readonly place: KeyPlace;
  /** As they are unless they are changed; any of them does it. */
  readonly keys: readonly string[];
}

/** Commands whose key can be changed. */
export const keyCommands = {
  find: { title: 'Find anything by name', place: 'anywhere', keys: ['Ctrl+K'] },
  keys: { title: 'All keys', place: 'anywhere', keys: ['?'] },
  messages: { title: 'What was said, again', place: 'anywhere', keys: ['Shift+H'] },
  undo: { title: 'Undo', place: 'song', keys: ['Ctrl+Z'] },
  redo: { title: 'Redo', place: 'song', keys: ['Ctrl+Shift+Z', 'Ctrl+Y'] },
  copy: { title: 'Copy what is selected', place: 'song', keys: ['Ctrl+C'] },
  paste: { title: 'Paste what was copied', place: 'song', keys: ['V'] },
  bars: { title: 'The bars of what is chosen become the scope', place: 'song', keys: ['R'] },
  play: { title: 'Play or pause', place: 'song', keys: ['P'] },
  back: { title: 'Back to where it began', place: 'song', keys: ['Shift+P'] },
  loop: { title: 'Hear the chosen bars again and again', place: 'song', keys: ['L'] },
  'before-after': { title: 'Hear it as it is, or as it would be', place: 'song', keys: ['B'] },
  lights: { title: 'Lights: the keys, pads or frets that sound', place: 'song', keys: ['K'] },
  silence: { title: 'Silence everything, also at the MIDI port', place: 'song', keys: ['X'] },
  finding: {
    title: 'To the findings, or back to the one that was shown',
    place: 'song',
    keys: ['G'],
  },
  'go-in': { title: 'Go to: Bring in', place: 'song', keys: ['1'] },
  'go-sheet': { title: 'Go to: Look over', place: 'song', keys: ['2'] },
  'go-notes': { title: 'Go to: Notes', place: 'song', keys: ['3'] },
  'go-lanes': { title: 'Go to: Lanes', place: 'song', keys: ['4'] },
  'go-events': { title: 'Go to: Event list', place: 'song', keys: ['5'] },
  'go-timing': { title: 'Go to: Timing', place: 'song', keys: ['6'] },
  'go-harmony': { title: 'Go to: Harmony', place: 'song', keys: ['7'] },
  'go-arrange': { title: 'Go to: Arrange', place: 'song', keys: ['8'] },
  'go-shelf': { title: 'Go to: Shelf', place: 'song', keys: ['9'] },
  'go-out': { title: 'Go to: Hand off', place: 'song', keys: ['0'] },
  'go-history': { title: 'Go to: History', place: 'song', keys: ['H'] },
  'sheet-rename': { title: 'Rename the track', place: 'sheet', keys: ['F2'] },
  'sheet-instrument': { title: 'Choose what plays the track', place: 'sheet', keys: ['I'] },
  'sheet-silent': { title: 'Silence the track, or hear it again', place: 'sheet', keys: ['M'] },
  'sheet-alone': { title: 'Hear only the track, or all again', place: 'sheet', keys: ['O'] },
  'sheet-up': { title: 'Move the track up', place: 'sheet', keys: ['Alt+ArrowUp'] },
  'sheet-down': { title: 'Move the track down', place: 'sheet', keys: ['Alt+ArrowDown'] },
  'sheet-remove': { title: 'Remove the track', place: 'sheet', keys: ['Delete'] },
  'sheet-all': { title: 'Select all tracks', place: 'sheet', keys: ['Ctrl+A'] },
  'notes-all': { title: 'Select all notes of the part', place: 'notes', keys: ['Ctrl+A'] },
  'notes-remove': {
    title: 'Take the selected notes out',
    place: 'notes',
    keys: ['Delete', 'Backspace'],
  },
  'notes-next': { title: 'To the next note', place: 'notes', keys: ['.'] },
  'notes-before': { title: 'To the note before', place: 'notes', keys: [','] },
  'notes-nearer': { title: 'Nearer', place: 'notes', keys: ['+', '='] },
  'notes-farther': { title: 'Farther', place: 'notes', keys: ['-'] },
  'notes-song': { title: 'The whole song in view', place: 'notes', keys: ['W'] },
  'notes-scope': { title: 'The bars of the scope in view', place: 'notes', keys: ['S'] },
  'notes-selected': { title: 'What is selected in view', place: 'notes', keys: ['E'] },
  'events-edit': { title: 'Edit the event', place: 'events', keys: ['F2'] },
  'events-insert': { title: 'Insert an event', place: 'events', keys: ['Insert'] },
  'events-remove': { title: 'Delete the chosen events', place: 'events', keys: ['Delete'] },
  'events-remove-shown': {
    title: 'Delete all events that are listed',
    place: 'events',
    keys: ['Shift+Delete'],
  },
  'events-all': { title: 'Select all events that are listed', place: 'events', keys: ['Ctrl+A'] },
  'harmony-take': { title: 'Take what is told into the chord line', place: 'harmony', keys: ['T'] },
  'harmony-scope': { title: 'The bars become the scope', place: 'harmony', keys: ['='] },
  'harmony-empty': { title: 'Empty the bars', place: 'harmony', keys: ['Delete', 'Backspace'] },
  'harmony-up': { title: 'Move the chords a bar up', place: 'harmony', keys: ['Alt+ArrowUp'] },
  'harmony-down': {
    title: 'Move the chords a bar down',
    place: 'harmony',
    keys: ['Alt+ArrowDown'],
  },
  'arrange-repeat': { title: 'Repeat the section', place: 'arrange', keys: ['+'] },
  'arrange-out': {
    title: 'Leave the section out',
    place: 'arrange',
    keys: ['Delete', 'Backspace'],
  },
  'arrange-scope': { title: 'Its bars become the scope', place: 'arrange', keys: ['='] },
  'arrange-up': { title: 'Move the section up', place: 'arrange', keys: ['Alt+ArrowUp'] },
  'arrange-down': { title: 'Move the section down', place: 'arrange', keys: ['Alt+ArrowDown'] },
  'shelf-turn': { title: 'Hear the clip round and round, or once', place: 'shelf', keys: ['T'] },
  'shelf-rename': { title: 'Rename the clip', place: 'shelf', keys: ['F2'] },
  'shelf-remove': { title: 'Remove the clip', place: 'shelf', keys: ['Delete'] },
} as const satisfies Readonly<Record<string, KeyCommand>>;
export type KeyCommandId = keyof typeof keyCommands;

export const keyCommandIds = Object.keys(keyCommands) as KeyCommandId[];
export const isKeyCommand = (id: string): id is KeyCommandId => Object.hasOwn(keyCommands, id);

/** Keys that always do what they do, and cannot be given to anything else there. */
export const fixedKeys: readonly (KeyCommand & { readonly says: string })[] = [
  {
    place: 'anywhere',
    says: 'Tab',
    keys: ['Tab', 'Shift+Tab'],
    title: 'To what is next, or before',
  },
  {
    place: 'anywhere',
    says: 'Esc',
    keys: ['Escape'],
    title: 'Leaves what is open, selects nothing',
  },
  {
    place: 'anywhere',
    says: 'Enter',
    keys: ['Enter'],
    title: 'Does what is in focus; in a form the step',
  },
  {
    place: 'song',
    says: 'Space',
    keys: [' '],
    title: 'Plays or pauses where it presses and selects nothing',
  },
  {
    place: 'sheet',
    says: '↑ ↓ Page Home End',
    keys: [
      'ArrowUp',
      'ArrowDown',
      'Shift+ArrowUp',
      'Shift+ArrowDown',
      'PageUp',
      'PageDown',
      'Home',
      'End',
    ],
    title: 'From track to track, with Shift selecting',
  },
  {
    place: 'notes',
    says: '← → ↑ ↓',
    keys: [
      'ArrowLeft',
      'ArrowRight',
      'ArrowUp',
      'ArrowDown',
      'Shift+ArrowLeft',
      'Shift+ArrowRight',
      'Shift+ArrowUp',
      'Shift+ArrowDown',
      'Alt+ArrowLeft',
      'Alt+ArrowRight',
      'Alt+ArrowUp',
      'Alt+ArrowDown',
      'PageUp',
      'PageDown',
      'Home',
      'End',
    ],
    title:
      'Move what is selected, with Shift by ticks and octaves, with Alt stretch and make louder; else scroll',
  },
  {
    place: 'events',
    says: '↑ ↓ Page Home End',
    keys: [
      'ArrowUp',
      'ArrowDown',
      'Shift+ArrowUp',
      'Shift+ArrowDown',
      'PageUp',
      'PageDown',
      'Home',
      'End',
    ],
    title: 'From event to event, with Shift selecting',
  },
  {
    place: 'tempo',
    says: '← → ↑ ↓',
    keys: [
      'ArrowLeft',
      'ArrowRight',
      'ArrowUp',
      'ArrowDown',
      'Alt+ArrowLeft',
      'Alt+ArrowRight',
      'Alt+ArrowUp',
      'Alt+ArrowDown',
      'Delete',
    ],
    title: 'From tempo to tempo, with Alt moving it; Delete takes it out',
  },
  {
    place: 'harmony',
    says: 'A to G, N with Shift',
    keys: [...'ABCDEFGN'].map((key) => `Shift+${key}`),
    title: 'Type a chord into the bar; F2 or Enter edits what is there',
  },
  {
    place: 'harmony',
    says: '↑ ↓ Page Home End',
    keys: [
      'ArrowUp',
      'ArrowDown',
      'Shift+ArrowUp',
      'Shift+ArrowDown',
      'PageUp',
      'PageDown',
      'Home',
      'End',
      'F2',
    ],
    title: 'From bar to bar, with Shift selecting',
  },
  {
    place: 'arrange',
    says: '↑ ↓',
    keys: ['ArrowUp', 'ArrowDown'],
    title: 'From section to section',
  },
  {
    place: 'shelf',
    says: '↑ ↓ Page Home End',
    keys: ['ArrowUp', 'ArrowDown', 'PageUp', 'PageDown', 'Home', 'End'],
    title:
      'From clip to clip, each heard; Space hears again or hushes, Enter puts it into the song',
  },
];

/** Keys of browsers and desktops: many of them never reach a page, and nobody wants them to. */
const browsersOwn =
  /^(F(1|3|5|6|7|10|11|12)|(Ctrl|Alt)\+F\d+|Ctrl\+(Shift\+)?([TNWRLDFPSOHJUQEGIM]|Tab|Delete|Enter)|Ctrl\+Shift\+[ABCKPVY]|Ctrl\+([VX0-9]|\+|-|=|PageUp|PageDown)|Alt\+(ArrowLeft|ArrowRight|Home|[DEF0-9])|ContextMenu|PrintScreen|(Ctrl|Alt|Shift)\+?)$/;
export const isBrowsersOwn = (key: string): boolean => browsersOwn.test(key);

/** Whether two places are ever open together. */
const meet = (a: KeyPlace, b: KeyPlace): boolean =>
  a === b || a === 'anywhere' || b === 'anywhere' || a === 'song' || b === 'song';

/** Keys that were changed, by command. */
export type ChangedKeys = Readonly<Partial<Record<KeyCommandId, string>>>;

export const keysOf = (id: KeyCommandId, changed: ChangedKeys): readonly string[] =>
  changed[id] === undefined ? keyCommands[id].keys : [changed[id]];

/** Why a key cannot be what does something: the browser has it, or what it does already, by its name. */
export function takenBy(id: KeyCommandId, key: string, changed: ChangedKeys): string | undefined {
  if (isBrowsersOwn(key)) return 'the browser';
  const { place } = keyCommands[id];
  const fixed = fixedKeys.find((f) => meet(f.place, place) && f.keys.includes(key));
  if (fixed) return `“${fixed.title}”`;
  const other = keyCommandIds.find(
    (its) =>
      its !== id && meet(keyCommands[its].place, place) && keysOf(its, changed).includes(key),
  );
  return other && `“${keyCommands[other].title}”`;
}

/** The first of changed keys that is none of its own. */
export function clashIn(
  changed: ChangedKeys,
): { readonly id: KeyCommandId; readonly key: string; readonly by: string } | undefined {
  for (const id of keyCommandIds) {
    const key = changed[id];
    const by = key === undefined ? undefined : takenBy(id, key, changed);
    if (key !== undefined && by !== undefined) return { id, key, by };
  }
  return undefined;
}
