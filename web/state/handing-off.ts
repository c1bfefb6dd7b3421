import { create } from 'zustand';
import type { HandoffSettings } from '#core/handoff/settings.ts';

/**
 * What a handoff is asked for with, as it is set on the page: the bars and tracks are those of the scope,
 * where they are wanted.
 */
export interface Handing extends Omit<HandoffSettings, 'scope' | 'tracks' | 'groups'> {
  /** Id of who it is for; null where nobody is named. */
  readonly receiver: string | null;
  readonly ofBars: 'all' | 'scope';
  readonly ofTracks: 'all' | 'selected';
  /** By track, the name of its group. */
  readonly groupOf: Readonly<Record<string, string>>;
}

/** As everything is where nothing is said: the whole song, as it is. The tests hold it against the schema. */
export const usualHanding: Handing = {
  receiver: null,
  ofBars: 'all',
  ofTracks: 'all',
  groupOf: {},
  format: 'as-received',
  runningStatus: true,
  chunks: true,
  divide: 'whole',
  repeat: 1,
  recipe: null,
  form: {
    ppq: null,
    text: 'as they are',
    longestName: null,
    longestMark: null,
    fileNames: 'long',
    ending: null,
    end: 'as it is',
    start: 'in its place',
    tempo: 'as it is',
    bpm: null,
    steps: null,
    drums: 'as they are',
    language: '',
    tracks: 'as they are',
  },
  take: {
    tempo: true,
    meters: true,
    keys: true,
    markers: 'as they are',
    sections: true,
    texts: true,
    lyrics: true,
    timecode: true,
    copyright: true,
    programs: true,
    volume: true,
    pan: true,
    reverb: true,
    chorus: true,
    controllers: true,
    without: [],
    bend: true,
    pressure: true,
    exclusive: true,
    specific: true,
    ports: true,
    trackNames: true,
    instrumentNames: true,
    channels: 'as they are',
  },
  edges: { notes: 'cut', leadIn: true },
};

interface State {
  readonly bySong: Readonly<Record<string, Handing>>;
  change(song: string, change: Partial<Handing>): void;
}

/** What was set for each song while the page is open. */
export const useHandingOff = create<State>((set) => ({
  bySong: {},
  change: (song, change) =>
    set(({ bySong }) => ({
      bySong: { ...bySong, [song]: { ...(bySong[song] ?? usualHanding), ...change } },
    })),
}));
