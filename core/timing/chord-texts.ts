/**
 * A chord of the chord line stands among the events as a text that anybody can read, told from other texts
 * by the word before it: `chord: Dm7`. Decision 29.
 */
const word = 'chord: ';
const said = /^chord:(.*)$/is;

export const chordTextOf = (chord: string): string => word + chord;

/** What a text of the chord line says; undefined of every other text. */
export const chordIn = (text: string): string | undefined => said.exec(text)?.[1]?.trim();
