import { keySwitchesIn } from '../../edit/key-switches.ts';
import { ok, type Result } from '../../problems/problems.ts';
import { isMeta, meta } from '../../smf/events.ts';
import { stays } from '../../smf/own-events.ts';
import { parkedRows, sentSong } from '../../song/lanes.ts';
import type { Song } from '../../song/song.ts';
import { formFile, planHandoff, type Names, type Planned } from '../handoff.ts';
import type { PlannedFile } from '../plan.ts';
import { firstNote } from '../part/piece.ts';
import { findSpan } from '../proof/places.ts';
import { limitsSchema, type Limits } from '../receiver/receiver.ts';
import type { HandoffAsked } from '../settings.ts';
import { fitsAsName } from './file-name.ts';
import { followFile } from './judge/followed.ts';
import { Following } from './judge/following.ts';
import type { ForecastItem } from './item.ts';
import { formatOf, remedyFor, type Remedying } from './remedies.ts';
import { spansOf, Tally, type Told } from './tally.ts';
import { sentence, whyOf } from './words.ts';

/** A receiver that takes everything. */
export const takesAll: Limits = limitsSchema.parse({});

/**
 * What of a song will not arrive, or arrive changed, if it is handed off so to a receiver: every event is
 * followed through the files to what the receiver has of them.
 *
 * @param limits of the receiver; left out, one that takes everything
 */
export function forecastOf(
  whole: Song,
  asked: HandoffAsked,
  limits: Limits = takesAll,
  names: Names = {},
): Result<ForecastItem[]> {
  const planned = planHandoff(whole, asked, names);
  if (!planned.ok) return planned;
  const sent = sentSong(whole);
  const following = new Following(sent, planned.value, limits, keySwitchesIn);
  const tally = new Tally(sent, planned.value.wanted, limits);
  for (const file of planned.value.plan.files) {
    const formed = formFile(planned.value, file);
    if (!formed.ok) return formed;
    const { song, begins } = formed.value;
    const format = formatOf(song, planned.value.wanted);
    const merged =
      format === 0 || (planned.value.wanted.form.tracks === 'one' && song.tracks.length > 2);
    const tracks = format === 0 ? 1 : merged ? 2 : song.tracks.length;
    followFile(following, { part: file, song, laid: { format, merged, tracks, begins } });
    ofTheFile(tally, planned.value, file, song, merged, limits);
  }
  tally.events(following);
  for (let n = 0; n < following.more; n++) tally.add('more', 'changed', 'setting');
  ofTheSong(tally, whole, planned.value, limits);
  const given = { song: sent, wanted: planned.value.wanted, limits };
  return ok(
    tally
      .all()
      .map((told) => inWords(told, given, following))
      .sort(byHarm),
  );
}

/** What is told of a file beside its events. */
function ofTheFile(
  tally: Tally,
  { plan, wanted }: Planned,
  file: PlannedFile,
  song: Song,
  merged: boolean,
  limits: Limits,
): void {
  const span = file.span ?? { from: 0, to: Infinity };
  const begins = findSpan(plan.song, file, wanted).from;
  const late = limits.start === 'with its first note' && begins === span.from;
  const first = late
    ? Math.min(...song.tracks.map((t) => firstNote(t.events, { from: 0, to: Infinity })))
    : 0;
  const bare =
    begins > span.from ||
    (first > 0 && first < Infinity) ||
    (!wanted.edges.leadIn &&
      span.from > 0 &&
      !wanted.scope?.bars &&
      wanted.divide !== 'sections' &&
      wanted.divide !== 'sections-tracks');
  if (bare) tally.add('start', 'changed', late ? 'receiver' : 'setting');
  if (wanted.repeat > 1) tally.add('repeated', 'changed', 'setting');
  if (!fitsAsName(file.name, limits)) tally.add('fileNames', 'changed', 'receiver');
  if (merged) {
    const parts = song.tracks.filter((t) => t.events.status.some((s) => s < 0xf0));
    if (parts.length > 1)
      for (const { id } of parts) tally.add('merged', 'changed', byFormat(limits), { track: id });
  }
}

/** Whose doing it is that tracks come together. */
const byFormat = ({ formats, tracks }: Limits): 'setting' | 'receiver' =>
  formats.includes(1) && tracks === null ? 'setting' : 'receiver';

/** What never leaves, and what no event says. */
function ofTheSong(tally: Tally, whole: Song, { wanted }: Planned, limits: Limits): void {
  for (const track of whole.tracks) {
    const { events, id } = track;
    const isParked = track.parked?.length ? parkedRows(track) : () => false;
    for (let row = 0; row < events.count; row++)
      if (isParked(row))
        tally.add('parked', 'not', 'setting', { track: id, tick: events.atTick[row]! });
    for (let i = 0; i < events.count; i++)
      if (isMeta(events, i, meta.sequencerSpecific) && stays(events, i))
        tally.add('kept', 'not', 'setting', { track: id, tick: events.atTick[i]! });
  }
  if (!wanted.form.chunks || !limits.chunks)
    for (let n = 0; n < whole.alienChunks.length; n++)
      tally.add('chunks', 'not', limits.chunks ? 'setting' : 'receiver');
}

const seconds: ReadonlySet<string> = new Set(['rounding', 'places', 'time']);

function inWords(told: Told, given: Remedying, { worst }: Following): ForecastItem {
  const { what, arrives, by, count, tracks, bars } = told;
  const off = seconds.has(what) ? worst[what as 'rounding'] : undefined;
  return {
    what,
    arrives,
    by,
    says: sentence(told, off),
    count,
    tracks: [...tracks],
    bars: spansOf(bars),
    why: whyOf(what, arrives),
    remedy: remedyFor(told, given),
  };
}

/** What is wholly lost first, what nobody hears last. */
const order = [
  'files',
  'moreTracks',
  'highChannels',
  'notes',
  'gap',
  'time',
  'drums',
  'keySwitches',
  'places',
  'pitches',
];
const last = ['chosenTracks', 'bars', 'parked', 'kept', 'rounding'];
const harm = ({ what, arrives }: ForecastItem): number => {
  if (last.includes(what)) return 100 + last.indexOf(what);
  const first = order.indexOf(what);
  return first !== -1 ? first : arrives === 'not' ? 50 : 60;
};
const byHarm = (a: ForecastItem, b: ForecastItem): number => harm(a) - harm(b);
