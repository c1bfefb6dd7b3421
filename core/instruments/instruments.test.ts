import Midi from '@tonejs/midi';
import { describe, expect, it } from 'vitest';
import { channelEvent } from '../smf/events.ts';
import { eventsFrom } from '../smf/event-builder.ts';
import { writeSmf } from '../smf/write.ts';
import { controllerName } from './controllers.ts';
import { familyNames, familyOf, programNames } from './general-midi.ts';

/** What the independent package calls each program: asked through a file with that program, as its users do. */
function theirName(program: number): { name: string; family: string } {
  const events = eventsFrom([
    channelEvent(0, 0xc0, program),
    channelEvent(0, 0x90, 60, 64),
    channelEvent(96, 0x80, 60, 0),
  ]);
  const file = writeSmf({
    format: 0,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    tracks: [{ events }],
    alienChunks: [],
  });
  const { instrument } = new Midi.Midi(file).tracks[0]!;
  return { name: instrument.name, family: instrument.family };
}

const plain = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]/g, '');

describe('General MIDI (RP-003), against npm @tonejs/midi', () => {
  it('has 128 programs in sixteen families of eight', () => {
    expect([programNames.length, familyNames.length]).toEqual([128, 16]);
    expect([familyOf(0), familyOf(40), familyOf(127)]).toEqual([
      'Piano',
      'Strings',
      'Sound effects',
    ]);
  });

  it('names every program as the package does, letters and figures alike', () => {
    const different = programNames
      .map((name, program) => ({ program, name, theirs: theirName(program).name }))
      .filter(({ name, theirs }) => plain(theirs) !== plain(name));
    expect(different).toEqual([]);
    expect(theirName(71)).toEqual({ name: 'clarinet', family: 'reed' });
  });
});

describe('controller names (MIDI 1.0, table of control changes)', () => {
  it.each([
    [0, 'Bank select'],
    [32, 'Bank select (fine)'],
    [1, 'Modulation'],
    [33, 'Modulation (fine)'],
    [2, 'Breath'],
    [4, 'Foot'],
    [5, 'Portamento time'],
    [6, 'Data entry'],
    [38, 'Data entry (fine)'],
    [7, 'Volume'],
    [8, 'Balance'],
    [10, 'Pan'],
    [11, 'Expression'],
    [64, 'Damper'],
    [65, 'Portamento'],
    [66, 'Sostenuto'],
    [67, 'Soft'],
    [70, 'Variation'],
    [71, 'Resonance'],
    [72, 'Release'],
    [73, 'Attack'],
    [74, 'Brightness'],
    [75, 'Decay'],
    [76, 'Vibrato rate'],
    [77, 'Vibrato depth'],
    [78, 'Vibrato delay'],
    [84, 'Portamento control'],
    [91, 'Reverb send'],
    [93, 'Chorus send'],
    [96, 'Data increment'],
    [97, 'Data decrement'],
    [98, 'NRPN low'],
    [100, 'RPN low'],
    [120, 'All sound off'],
    [121, 'Reset all controllers'],
    [123, 'All notes off'],
    [3, 'Controller 3'],
    [119, 'Controller 119'],
  ])('%i is %s', (number, name) => {
    expect(controllerName(number)).toBe(name);
  });
});
