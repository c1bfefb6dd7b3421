import { limitsOf } from '../../song/played-by.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

/** Overlaps shorter than this are legato, not chords. */
const legatoSeconds = 0.12;
/** Fewer places than this may be slips. */
const leastPlaces = 4;

export function tooManyVoices(song: LookedSong): Noticed[] {
  return song.parts.flatMap((t): Noticed[] => {
    const limits = limitsOf(t.track);
    const most = limits?.voices;
    if (most === undefined || limits!.drums) return [];
    const { places, chords, first } = crowded(song, t, most);
    if (places < leastPlaces) return [];
    const bar = song.barAt(first);
    return [
      {
        title: `${t.label} sounds more notes at once than a player of ${limits!.called} can`,
        why: `One player sounds ${most === 1 ? 'one note' : `${most} notes`} at a time: a real player, or an instrument that plays in mono, leaves the others out.`,
        tracks: [t.id],
        bars: { from: bar, to: bar },
        count: places,
        sure: 'possible',
        settle: [
          chords * 2 > places
            ? {
                title: 'Split by voice',
                operation: 'tracks.split-by-voice',
                settings: {},
                scope: onTracks(t.id),
              }
            : {
                title: 'End each note where the next begins',
                operation: 'notes.lengths',
                settings: { how: 'until the next' },
                scope: onTracks(t.id),
              },
        ],
      },
    ];
  });
}

/**
 * How many notes begin while too many others go on, how many of them together with another, and where the
 * first does.
 */
function crowded(
  { seconds }: LookedSong,
  { notes, track: { events } }: LookedTrack,
  most: number,
): { places: number; chords: number; first: number } {
  let sounding: number[] = [];
  let [places, chords, first] = [0, 0, 0];
  for (let n = 0; n < notes.count; n++) {
    const off = notes.off[n]!;
    if (off === -1) continue;
    const from = events.atTick[notes.on[n]!]!;
    // What ends just behind this beginning is tied over to it.
    sounding = sounding.filter((end) => seconds(end) - seconds(from) > legatoSeconds);
    if (sounding.length >= most) {
      if (places++ === 0) first = from;
      if (n > 0 && events.atTick[notes.on[n - 1]!] === from) chords++;
    }
    sounding.push(events.atTick[off]!);
  }
  return { places, chords, first };
}
