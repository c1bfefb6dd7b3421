const majors = ['C♭', 'G♭', 'D♭', 'A♭', 'E♭', 'B♭', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F♯', 'C♯'];
const minors = ['A♭', 'E♭', 'B♭', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F♯', 'C♯', 'G♯', 'D♯', 'A♯'];

/** Key signature as musicians name it: −1 sharps and minor → "D minor". */
export const keySignatureText = (sharps: number, minor: boolean): string => `${(minor ? minors : majors)[sharps + 7] ?? '?'} ${minor ? 'minor' : 'major'}`;
