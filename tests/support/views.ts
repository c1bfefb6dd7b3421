import type { TimingView, TrackView } from '#contracts/songs.ts';

/** A track as the API shows it, plain but for what a test says. */
export function trackView(change: Partial<TrackView> = {}): TrackView {
  const counts = {
    events: 0,
    notes: 0,
    pitchBend: 0,
    pressure: 0,
    programChanges: 0,
    systemExclusive: 0,
    lyrics: 0,
    texts: 0,
    tempos: 0,
    meters: 0,
    markers: 0,
  };
  return {
    id: 't1',
    name: '',
    ownName: false,
    channel: null,
    channels: [],
    ports: [],
    programs: [],
    events: 1,
    notes: 0,
    hangingNotes: 0,
    controllers: [],
    counts,
    endTick: 0,
    activity: [0],
    sha256: '',
    ...change,
  };
}

/** Timing of a song of equal bars. */
export function timingView(
  bars: number,
  barTicks: number,
  change: Partial<TimingView> = {},
): TimingView {
  return {
    tempos: [],
    tempoCount: 0,
    meters: [{ atTick: 0, bar: 1, numerator: 4, denominator: 4 }],
    copyright: [],
    clicks: [],
    keys: [],
    markers: [],
    cuePoints: [],
    texts: [],
    chords: [],
    sections: [],
    bars,
    barsPerCell: 1,
    cellTicks: Array.from({ length: bars + 1 }, (_, i) => i * barTicks),
    endTick: bars * barTicks,
    seconds: 0,
    ...change,
  };
}
