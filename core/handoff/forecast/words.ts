import { boundText } from '../../units/bounds.ts';
import type { Told } from './tally.ts';
import type { What } from './item.ts';

type Words = readonly [one: string, many: string];

/** What is counted, as it is called. */
const called: Readonly<Record<What, Words>> = {
  tempo: ['tempo', 'tempos'],
  meters: ['meter', 'meters'],
  keys: ['key signature', 'key signatures'],
  markers: ['marker or cue point', 'markers and cue points'],
  sections: ['mark of a section', 'marks of sections'],
  texts: ['text', 'texts'],
  lyrics: ['syllable', 'syllables'],
  timecode: ['start timecode', 'start timecodes'],
  copyright: ['copyright notice', 'copyright notices'],
  programs: ['program', 'programs'],
  banks: ['bank select', 'bank selects'],
  volume: ['volume', 'volumes'],
  pan: ['pan', 'pans'],
  reverb: ['reverb send', 'reverb sends'],
  chorus: ['chorus send', 'chorus sends'],
  controllers: ['controller', 'controllers'],
  bend: ['pitch bend', 'pitch bends'],
  pressure: ['pressure value', 'pressure values'],
  exclusive: ['system exclusive message', 'system exclusive messages'],
  specific: ['sequencer-specific event', 'sequencer-specific events'],
  ports: ['port or channel prefix', 'ports and channel prefixes'],
  trackNames: ['track name', 'track names'],
  instrumentNames: ['instrument name', 'instrument names'],
  notes: ['note', 'notes'],
  gap: ['note', 'notes'],
  highChannels: ['event on a channel above', 'events on channels above'],
  moreTracks: [
    'event of a track behind the last that is read',
    'events of tracks behind the last that is read',
  ],
  files: ['file', 'files'],
  other: ['other event', 'other events'],
  places: ['event', 'events'],
  rounding: ['event', 'events'],
  time: ['event', 'events'],
  lengths: ['note', 'notes'],
  velocities: ['note', 'notes'],
  pitches: ['note', 'notes'],
  channels: ['event', 'events'],
  drums: ['note of a kit', 'notes of kits'],
  keySwitches: ['key switch', 'key switches'],
  kits: ['choice of a kit', 'choices of kits'],
  elsewhere: ['event', 'events'],
  chosenTracks: ['event', 'events'],
  bars: ['event', 'events'],
  parked: ['parked event', 'parked events'],
  kept: ['mark that is kept here', 'marks that are kept here'],
  chunks: ['chunk of another kind', 'chunks of other kinds'],
  fileNames: ['file name', 'file names'],
  merged: ['track', 'tracks'],
  start: ['file', 'files'],
  repeated: ['file', 'files'],
  more: ['note', 'notes'],
};

/** What happens to it, of one and of many; where nothing stands, it is not there, or changed. */
const happens: Readonly<Partial<Record<What, Words>>> = {
  gap: [
    'is not heard: it follows another of its key too soon',
    'are not heard: they follow others of their key too soon',
  ],
  highChannels: ['is not heard', 'are not heard'],
  moreTracks: ['is not read', 'are not read'],
  files: ['is not opened', 'are not opened'],
  places: ['stands at another place in the bars', 'stand at other places in the bars'],
  rounding: ['stands on the nearest tick', 'stand on the nearest tick'],
  time: ['sounds earlier or later', 'sound earlier or later'],
  lengths: ['has another length', 'have another length'],
  velocities: ['has another velocity', 'have another velocity'],
  pitches: ['has another pitch', 'have another pitch'],
  channels: ['is on another channel', 'are on other channels'],
  drums: ['is heard as a pitched note', 'are heard as pitched notes'],
  keySwitches: ['is heard as a note', 'are heard as notes'],
  kits: ['is passed over', 'are passed over'],
  elsewhere: ['is in another track', 'are in other tracks'],
  chosenTracks: ['stays here: its track is not chosen', 'stay here: their tracks are not chosen'],
  bars: ['stays here: its bar is not chosen', 'stay here: their bars are not chosen'],
  parked: ['stays here', 'stay here'],
  kept: ['stays here', 'stay here'],
  merged: ['arrives in one track with others', 'arrive as one track'],
  start: ['begins without the gap before its music', 'begin without the gap before their music'],
  repeated: ['holds its bars several times', 'hold their bars several times'],
  more: ['arrives that is not in the song', 'arrive that are not in the song'],
  sections: ['arrives as a plain mark', 'arrive as plain marks'],
};

/** Why it matters. */
const whys: Readonly<Record<What, string>> = {
  tempo: 'Where the music slows down or speeds up, it plays on at the tempo it has there.',
  meters:
    'Bars are counted otherwise there, so that bar numbers and the metronome no longer agree.',
  keys: 'Accidentals are guessed where it is shown as notes.',
  markers: 'Nobody finds the places there that are named here.',
  sections: 'Spans are not seen there; at most where they begin and end.',
  texts: 'What was written down for whoever plays is not there.',
  lyrics: 'Words that are sung here are missing there.',
  timecode: 'Against picture it has to be put to its address by hand.',
  copyright: 'The notice of whose work it is gets lost.',
  programs: 'Parts play with whatever sound is set there.',
  banks: 'Variations of a sound fall back to the plain one.',
  volume: 'The balance of the parts is not as here.',
  pan: 'Parts are not where they are here in the stereo picture.',
  reverb: 'The room is not as here.',
  chorus: 'Parts sound without the depth they have here.',
  controllers: 'Pedals, swells and vibrato are not heard as played.',
  bend: 'Slides and vibrato are straight notes.',
  pressure: 'What was played with pressure on the keys is not heard.',
  exclusive: 'Devices are not set up as the song expects it.',
  specific: 'Only the program that wrote them knows them.',
  ports:
    'Parts of several ports come together on sixteen channels, and change one another’s sounds.',
  trackNames: 'Parts have to be told apart by ear.',
  instrumentNames: 'It is not said what is to play a part.',
  notes: 'Music is missing there.',
  gap: 'Repeated notes run into one.',
  highChannels: 'Whole parts are silent.',
  moreTracks: 'Whole parts are missing.',
  files: 'Of what is in them nothing arrives.',
  other: 'What it says is not known there.',
  places: 'It no longer sits on the grid where it does here.',
  rounding: 'Nobody hears it; only who compares places finds it.',
  time: 'It drifts against picture, audio and players that follow this tempo map.',
  lengths: 'Notes end sooner or later than here.',
  velocities: 'It is played louder or softer than here.',
  pitches: 'Other notes are heard than here.',
  channels: 'Who has set sounds by channel has to set them again.',
  drums: 'A beat becomes a melody of wrong notes.',
  keySwitches: 'Low or high wrong notes are heard in the music.',
  kits: 'The drums play with the standard kit.',
  elsewhere: 'The track layout is another one.',
  chosenTracks: 'They are not part of what leaves.',
  bars: 'They are not part of what leaves.',
  parked: 'What is parked is never sent.',
  kept: 'Marks of one’s own are never sent.',
  chunks: 'Only the program that wrote them knows them.',
  fileNames: 'It is found there under a shortened name, or not at all.',
  merged: 'Parts have to be split by channel again.',
  start: 'Put at bar 1 there, everything comes too soon.',
  repeated: 'Bar numbers behind the first time are not those of the song.',
  more: 'Notes are heard that nobody wrote.',
};

/** Why it matters that something arrives otherwise: where nothing stands, as where it does not arrive. */
const whysChanged: Readonly<Partial<Record<What, string>>> = {
  tempo: 'The music is slower or faster there than here.',
  markers: 'They are called otherwise there, or are marks of another kind.',
  sections: 'Where they begin and end is seen there; that they are spans is not.',
  texts: 'What was written down for whoever plays reads otherwise.',
  lyrics: 'The words that are sung read otherwise.',
  copyright: 'The notice of whose work it is reads otherwise.',
  trackNames: 'Parts are called otherwise there than here.',
  instrumentNames: 'What is to play a part is called otherwise.',
  programs: 'Parts play with another sound than here.',
  controllers: 'Pedals, swells and vibrato are not as played.',
  bend: 'Slides and vibrato are not as played.',
  pressure: 'What was played with pressure on the keys is not as played.',
};

export const whyOf = (what: What, arrives: Told['arrives']): string =>
  (arrives === 'changed' ? whysChanged[what] : undefined) ?? whys[what];

const msWords = (seconds: number): string =>
  seconds >= 1 ? `${seconds.toFixed(2)} s` : `${boundText(seconds * 1000)} ms`;

/** A sentence about what is told. @param worst the furthest that it is off, in seconds, where that is known */
export function sentence(
  { what, arrives, count }: Pick<Told, 'what' | 'arrives' | 'count'>,
  worst?: number,
): string {
  const one = count === 1;
  const usual: Words =
    arrives === 'not'
      ? ['does not arrive', 'do not arrive']
      : ['arrives changed', 'arrive changed'];
  const lostSection = what === 'sections' && arrives === 'not';
  const says = (lostSection ? undefined : happens[what]) ?? usual;
  const off = worst ? `, up to ${msWords(worst)}` : '';
  return `${count.toLocaleString('en')} ${called[what][one ? 0 : 1]} ${says[one ? 0 : 1]}${off}`;
}
