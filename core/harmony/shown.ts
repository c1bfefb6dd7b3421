/** A chord symbol, a degree or a note as a musician reads it: flats and sharps as signs. */
export const shownChord = (text: string): string => text.replaceAll('b', '♭').replaceAll('#', '♯');
