import { describe, expect, it } from 'vitest';
import { note, songOf } from '../../../tests/support/songs.ts';
import { meta, metaEvent } from '../../smf/events.ts';
import { encodeText } from '../../smf/text.ts';
import { limitsSchema, type Limits } from '../receiver/receiver.ts';
import { handoffSettings, wantedOf, type HandoffAsked } from '../settings.ts';
import type { What } from './item.ts';
import { bit } from './judge/outcome.ts';
import { remedyFor } from './remedies.ts';

/** A map and a long-named part at 96 PPQ. What is expected is worked out by hand from what the settings say. */
const song = songOf(
  [metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20))],
  [metaEvent(0, meta.trackName, encodeText('Second violin')), ...note(0, 96, 60)],
);

interface Case {
  readonly what: What;
  readonly arrives?: 'not' | 'changed';
  readonly by?: 'setting' | 'receiver';
  readonly ways?: number;
  readonly tracks?: readonly string[];
  readonly asked?: HandoffAsked;
  readonly takes?: Partial<Limits>;
}

function remedy({ asked = {}, takes = {}, ...told }: Case): unknown {
  const given = {
    song,
    wanted: wantedOf(handoffSettings.parse(asked)),
    limits: limitsSchema.parse(takes),
  };
  const tracks = new Set(told.tracks ?? ['t2']);
  const whole = { arrives: 'not', by: 'setting', ways: 0, ...told } as const;
  const found = remedyFor({ ...whole, tracks, count: 1, bars: new Set() }, given);
  if (!found) return null;
  return 'setting' in found ? found.setting : found.step;
}

const marked = (markers: 'none' | 'as they are' | 'cue points' | 'texts'): HandoffAsked => {
  const kinds = { markers };
  return { take: kinds };
};
const recipe = { name: 'Mine', steps: [{ operation: 'notes.legato', settings: {} }] };
const changed = (what: What, more: Omit<Case, 'what' | 'arrives'> = {}): unknown =>
  remedy({ what, arrives: 'changed', by: 'receiver', ...more });

describe('what makes something arrive that does not', () => {
  it.each<[string, Case, unknown]>([
    [
      'what was left out is sent',
      { what: 'lyrics', asked: { take: { lyrics: false } } },
      { take: { lyrics: true, without: [] } },
    ],
    ['what is sent already needs no setting', { what: 'lyrics' }, null],
    [
      'a bank goes with its program',
      { what: 'banks', asked: { take: { programs: false } } },
      { take: { programs: true, without: [] } },
    ],
    [
      'one controller was left out',
      { what: 'controllers', asked: { take: { without: [64] } } },
      { take: { controllers: true, without: [] } },
    ],
    [
      'nothing helps where the receiver does not take it',
      { what: 'lyrics', by: 'receiver', asked: { take: { lyrics: false } } },
      null,
    ],
    [
      'the map alone leaves without music',
      { what: 'bend', asked: { divide: 'map' } },
      { divide: 'whole', scope: {}, take: { bend: true, without: [] } },
    ],
    [
      'karaoke order has no lyrics',
      { what: 'lyrics', asked: { format: 'karaoke' } },
      { form: { format: 1 } },
    ],
    [
      'a tempo map that was left out',
      { what: 'tempo', asked: { take: { tempo: false } } },
      { form: { tempo: 'as it is' }, take: { tempo: true } },
    ],
    [
      'a tempo map that was made one tempo',
      { what: 'tempo', asked: { form: { tempo: 'one, in its bars' } } },
      { form: { tempo: 'as it is' }, take: { tempo: true } },
    ],
    [
      'a tempo that nobody reads',
      { what: 'tempo', by: 'receiver', takes: { tempo: 'one' }, asked: { take: { tempo: false } } },
      null,
    ],
    [
      'markers as the kind that is shown',
      { what: 'markers', by: 'receiver', takes: { marks: ['cue points'] } },
      marked('cue points'),
    ],
    [
      'markers that are shown as they are',
      { what: 'markers', asked: marked('none') },
      marked('as they are'),
    ],
    [
      'markers where none are shown',
      { what: 'markers', by: 'receiver', takes: { marks: [] } },
      null,
    ],
    [
      'sections that stayed here',
      { what: 'sections', asked: { take: { sections: false } } },
      { take: { sections: true } },
    ],
    ['sections that are not known there', { what: 'sections', by: 'receiver' }, null],
    ['notes that a recipe took out', { what: 'notes', asked: { recipe } }, { recipe: null }],
    [
      'one track where two are read',
      { what: 'moreTracks', by: 'receiver', takes: { tracks: 2 } },
      { form: { format: 1, tracks: 'one' } },
    ],
    [
      'one track of format 0 where one is read',
      { what: 'moreTracks', by: 'receiver', takes: { tracks: 1 } },
      { form: { format: 0 } },
    ],
    [
      'neither is taken',
      { what: 'moreTracks', by: 'receiver', takes: { tracks: 1, formats: [1] } },
      null,
    ],
    [
      'another format and resolution',
      { what: 'files', by: 'receiver', takes: { formats: [0], resolutions: [480, 960] } },
      { form: { format: 0, ppq: 480 } },
    ],
    [
      'the format is right, the resolution is not',
      { what: 'files', by: 'receiver', takes: { finest: 48 } },
      { form: { ppq: 48 } },
    ],
    [
      'tracks that were not chosen',
      { what: 'chosenTracks', asked: { tracks: ['t1'] } },
      { tracks: 'all' },
    ],
    [
      'tracks in no group',
      { what: 'chosenTracks', asked: { groups: [{ name: 'A', tracks: ['t2'] }] } },
      { divide: 'whole', groups: [], tracks: 'all' },
    ],
    [
      'bars that were not chosen',
      { what: 'bars', asked: { scope: { bars: { from: 2, to: 3 } } } },
      { scope: {} },
    ],
    ['bars in no section', { what: 'bars', asked: { divide: 'sections' } }, { divide: 'whole' }],
    [
      'lanes that are parked',
      { what: 'parked', tracks: ['t2'] },
      { operation: 'controllers.unpark', settings: {}, scope: { tracks: ['t2'] } },
    ],
    ['other chunks', { what: 'chunks', asked: { chunks: false } }, { form: { chunks: true } }],
    [
      'other chunks that are not taken',
      { what: 'chunks', by: 'receiver', takes: { chunks: false } },
      null,
    ],
    [
      'names in one track',
      { what: 'trackNames', asked: { form: { tracks: 'one' } } },
      { form: { format: 1, tracks: 'as they are' } },
    ],
    [
      'names that are not read',
      { what: 'trackNames', by: 'receiver', takes: { trackNames: false } },
      null,
    ],
  ])('%s', (_, told, expected) => {
    expect(remedy(told)).toEqual(expected);
  });

  it('a gap is a step on the copy, once', () => {
    const takes = { gap: 20 };
    const gap = remedy({ what: 'gap', by: 'receiver', takes }) as HandoffAsked;
    expect(gap.recipe?.steps).toMatchObject([
      { operation: 'notes.lengths', settings: { gap: 20 }, who: 'all' },
    ]);
    expect(remedy({ what: 'gap', by: 'receiver', takes, asked: gap })).toBeNull();
  });
});

describe('what makes something arrive as it is', () => {
  it.each<[string, What, Omit<Case, 'what' | 'arrives'>, unknown]>([
    [
      'names that the receiver cuts are cut here',
      'trackNames',
      { ways: bit.cut, takes: { nameLetters: 8 } },
      { form: { longestName: 8 } },
    ],
    [
      'names that were cut without need',
      'trackNames',
      { ways: bit.cut, asked: { form: { longestName: 8 } } },
      { form: { longestName: null } },
    ],
    [
      'marks have a length of their own',
      'markers',
      { ways: bit.cut, takes: { markLetters: 6, nameLetters: 8 } },
      { form: { longestMark: 6 } },
    ],
    [
      'marks of sections as well',
      'sections',
      { ways: bit.cut, takes: { markLetters: 6 } },
      { form: { longestMark: 6 } },
    ],
    [
      'letters that are read there',
      'lyrics',
      { ways: bit.letters, takes: { letters: 'ASCII' } },
      { form: { text: 'ASCII' } },
    ],
    [
      'letters that were changed without need',
      'lyrics',
      { ways: bit.letters, asked: { form: { text: 'ASCII' } } },
      { form: { text: 'as they are' } },
    ],
    [
      'letters that are written as they are read',
      'lyrics',
      { ways: bit.letters, takes: { letters: 'ASCII' }, asked: { form: { text: 'ASCII' } } },
      null,
    ],
    [
      'marks of another kind',
      'markers',
      { ways: bit.form, asked: marked('texts') },
      marked('as they are'),
    ],
    [
      'marks that stay cut stay changed',
      'markers',
      { ways: bit.form, takes: { markLetters: 6 }, asked: marked('texts') },
      null,
    ],
    [
      'names of tracks in one',
      'trackNames',
      { ways: bit.form, asked: { form: { tracks: 'one' } } },
      { form: { format: 1, tracks: 'as they are' } },
    ],
    [
      'values that a recipe changed',
      'controllers',
      { ways: bit.value, asked: { recipe } },
      { recipe: null },
    ],
    ['velocities that a recipe changed', 'velocities', { asked: { recipe } }, { recipe: null }],
    ['pitches where there is no recipe', 'pitches', {}, null],
    ['rounded places', 'rounding', { asked: { form: { ppq: 480 } } }, { form: { ppq: null } }],
    [
      'rounded places that have to be',
      'rounding',
      { asked: { form: { ppq: 48 } }, takes: { finest: 48 } },
      null,
    ],
    [
      'notes that are cut at an end',
      'lengths',
      { asked: { divide: 'sections' } },
      { edges: { notes: 'keep' } },
    ],
    ['notes of a song that leaves whole', 'lengths', {}, null],
    [
      'channels',
      'channels',
      { asked: { take: { channels: 'one each' } } },
      { take: { channels: 'as they are' } },
    ],
    [
      'drums beside others that are moved',
      'drums',
      {
        asked: {
          take: {
            channels: [
              { track: 't1', channel: 3 },
              { track: 't2', channel: 4 },
            ],
          },
        },
      },
      {
        take: {
          channels: [
            { track: 't1', channel: 3 },
            { track: 't2', channel: 10 },
          ],
        },
      },
    ],
    [
      'drums that were split',
      'elsewhere',
      { asked: { form: { drums: 'each its own track' } } },
      { form: { drums: 'as they are' } },
    ],
    ['a file for each drum', 'elsewhere', { asked: { divide: 'drums' } }, { divide: 'tracks' }],
    [
      'tracks in one',
      'merged',
      { asked: { form: { tracks: 'one' } } },
      { form: { format: 1, tracks: 'as they are' } },
    ],
    ['tracks that have to be one', 'merged', { takes: { tracks: 2 } }, null],
    [
      'bars before the music',
      'start',
      { asked: { edges: { leadIn: false } } },
      { edges: { leadIn: true } },
    ],
    [
      'a start that the receiver needs',
      'start',
      {
        takes: { start: 'with its first note' },
        asked: { form: { start: 'with its first note' } },
      },
      null,
    ],
    ['several times', 'repeated', { asked: { repeat: 2 } }, { repeat: 1 }],
    [
      'names of files',
      'fileNames',
      { takes: { fileNames: '8.3', ending: '.MID' } },
      { form: { fileNames: '8.3', ending: '.MID' } },
    ],
    [
      'notes that were struck again',
      'more',
      { asked: { edges: { notes: 'again' } } },
      { edges: { notes: 'cut' } },
    ],
    [
      'music at one tempo where the map is taken',
      'time',
      { asked: { form: { tempo: 'one, in its bars' } } },
      { form: { tempo: 'as it is' }, take: { tempo: true } },
    ],
    [
      'music at one tempo where no map is taken',
      'time',
      { takes: { tempo: 'none' }, asked: { form: { tempo: 'one, in its bars' } } },
      { form: { tempo: 'one, as it sounds' } },
    ],
    [
      'tempos that follow too soon',
      'time',
      { takes: { temposASecond: 2 } },
      { form: { steps: { error: 1, perSecond: 2 } } },
    ],
    [
      'places that were made anew',
      'places',
      { takes: { tempo: 'one' }, asked: { form: { tempo: 'one, as it sounds' } } },
      { form: { tempo: 'one, in its bars' } },
    ],
  ])('%s', (_, what, told, expected) => {
    expect(changed(what, told)).toEqual(expected);
  });

  it('one name that the settings cut gets a shorter one of its own; several, or those the receiver cuts, do not', () => {
    const cut = { ways: bit.cut, takes: { nameLetters: 8 }, asked: { form: { longestName: 8 } } };
    expect(changed('trackNames', { ...cut, by: 'setting' })).toEqual({
      operation: 'tracks.rename',
      settings: { name: 'Second v' },
      scope: { tracks: ['t2'] },
    });
    expect(changed('trackNames', { ...cut, by: 'setting', tracks: ['t1', 't2'] })).toBeNull();
    expect(changed('trackNames', cut)).toBeNull();
  });
});
