/**
 * "The Lantern Ferry", music for a touring puppet theatre: what is played, bar by bar.
 * Written for this project; the arranger (`parts.ts`) gives it to the players.
 */
export const ppq = 480;

export interface Section {
  readonly name: string;
  readonly bars: number;
  readonly meter: readonly [number, number];
  readonly bpm: number;
  /** One chord a bar, repeated until the section is full. */
  readonly chords: readonly string[];
  /** What the tune is, one bar an entry; repeated until the section is full. Durations in parts of `unit`. */
  readonly tune: readonly string[];
  /** Ticks of one duration unit in `tune`. */
  readonly unit: number;
  readonly mood: 'mist' | 'song' | 'dance' | 'waltz' | 'storm' | 'home';
  /** Loudness the players aim at, 0–1. */
  readonly level: number;
}

const songChords = ['Dm', 'Bb', 'F', 'C', 'Dm', 'Gm', 'A7', 'Dm'];
const songTune = ['A4:2 F4:1 G4:1 A4:4', 'Bb4:2 A4:1 G4:1 F4:4', 'A4:2 C5:2 C5:2 A4:2', 'G4:6 r:2', 'A4:2 F4:1 G4:1 A4:2 D5:2', 'D5:2 Bb4:2 G4:4', 'A4:2 E4:1 F4:1 G4:2 E4:2', 'D4:6 r:2'];
const refrainChords = ['Bb', 'F', 'Gm', 'Dm', 'Bb', 'F', 'Asus', 'A7'];
const refrainTune = ['D5:3 C5:1 Bb4:4', 'C5:3 Bb4:1 A4:4', 'Bb4:2 A4:2 G4:2 Bb4:2', 'A4:6 r:2', 'D5:3 C5:1 Bb4:4', 'C5:3 A4:1 F4:4', 'E4:2 F4:2 G4:2 A4:2', 'A4:6 r:2'];
const homeChords = ['Bb', 'F', 'Gm', 'Dm', 'Bb', 'C', 'F', 'F', 'Bb', 'F', 'Gm', 'Dm', 'Gm7', 'A7', 'Bb', 'Gm', 'D', 'D', 'D', 'D'];
const homeTune = ['D5:3 C5:1 Bb4:4', 'C5:3 Bb4:1 A4:4', 'Bb4:2 A4:2 G4:2 Bb4:2', 'A4:6 r:2', 'D5:3 C5:1 Bb4:4', 'C5:2 Bb4:2 G4:2 E4:2', 'F4:8', 'r:8', 'D5:3 C5:1 Bb4:4', 'C5:3 Bb4:1 A4:4', 'Bb4:2 A4:2 G4:2 Bb4:2', 'A4:6 r:2', 'Bb4:2 A4:2 G4:2 F4:2', 'E4:4 C#5:4', 'D5:8', 'Bb4:4 G4:4', 'A4:4 F#4:4', 'D5:8', 'r:8', 'r:8'];

export const sections: readonly Section[] = [
  { name: 'Mist', bars: 14, meter: [4, 4], bpm: 66, unit: 240, mood: 'mist', level: 0.42, chords: ['Dm', 'Dm', 'Bb', 'Gm', 'Dm', 'F', 'C', 'Asus', 'Dm', 'Bb', 'Gm', 'Dm', 'Asus', 'A7'], tune: ['r:8', 'r:8', 'A4:6 D5:2', 'D5:4 Bb4:4', 'A4:8', 'C5:6 A4:2', 'G4:8', 'E4:4 A4:4', 'F4:6 A4:2', 'D5:8', 'Bb4:4 G4:4', 'A4:8', 'D5:8', 'C#5:6 r:2'] },
  { name: 'Ferryman, row', bars: 16, meter: [4, 4], bpm: 88, unit: 240, mood: 'song', level: 0.58, chords: songChords, tune: songTune },
  { name: 'Glow, lanterns', bars: 8, meter: [4, 4], bpm: 92, unit: 240, mood: 'song', level: 0.7, chords: refrainChords, tune: refrainTune },
  { name: 'Lantern market', bars: 24, meter: [7, 8], bpm: 138, unit: 240, mood: 'dance', level: 0.74, chords: ['Dm', 'C', 'Dm', 'G', 'F', 'C', 'A7', 'Dm'], tune: ['D5:1 E5:1 F5:1 E5:1 D5:1 C5:1 D5:1', 'E5:2 C5:2 G4:3', 'F5:1 G5:1 A5:2 F5:1 E5:1 D5:1', 'G5:2 D5:2 B4:3', 'A5:2 F5:2 C5:1 D5:1 E5:1', 'G5:1 F5:1 E5:2 C5:3', 'E5:1 F5:1 G5:1 E5:1 C#5:1 D5:1 E5:1', 'D5:4 r:3'] },
  { name: 'Paper moon waltz', bars: 24, meter: [3, 4], bpm: 126, unit: 480, mood: 'waltz', level: 0.6, chords: ['F', 'C7', 'Dm', 'Bb', 'F', 'Gm', 'C7', 'F'], tune: ['C5:2 A4:1', 'Bb4:2 G4:1', 'A4:1 F4:1 A4:1', 'D5:3', 'C5:1 A4:1 C5:1', 'Bb4:1 G4:1 Bb4:1', 'E4:1 G4:1 Bb4:1', 'A4:2 F4:1'] },
  { name: 'Squall', bars: 14, meter: [7, 8], bpm: 104, unit: 240, mood: 'storm', level: 0.86, chords: ['Dm', 'Eb', 'Dm', 'Eb', 'Gm', 'Edim', 'A7'], tune: ['D4:2 A4:2 D5:3', 'Eb5:2 D5:2 Bb4:3', 'A4:2 F4:2 D4:3', 'Eb4:2 G4:2 Bb4:3', 'D5:2 Bb4:2 G4:3', 'G4:1 Bb4:1 E5:2 G5:3', 'A5:2 G5:2 E5:1 C#5:1 A4:1'] },
  { name: 'Lanterns out', bars: 20, meter: [4, 4], bpm: 80, unit: 240, mood: 'home', level: 0.66, chords: homeChords, tune: homeTune },
];

/** Words of the song, one syllable a note of the tune; a hyphen at the end goes on. */
export const verses: readonly string[] = [
  'Fer- ry- man, row o- ver the bay, car- ry the lights home. The ri- ver is wide, the night long, and none goes a- lone now.',
  'Fer- ry- man, hum low to the oar, pa- per moons float by. The far bank is near, the stars know the way we have come, long.',
];
export const refrain = 'Glow, lan- terns, glow, wa- ters, ev- ery flame a friend, glow, lan- terns, slow wa- ters, car- ry us to shore.';
export const ending = 'Glow, lan- terns, glow, wa- ters, ev- ery flame a friend, glow, lan- terns, car- ry us to shore. Glow, lan- terns, glow, wa- ters, ev- ery flame a friend, slow- ly we come to the bank, good night, good night, home.';

/** The squall quickens from its own tempo to this, over its last ten bars. */
export const squallTopBpm = 152;
/** The last four bars slow down to this. */
export const lastBpm = 52;
