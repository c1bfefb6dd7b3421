import { z } from 'zod';
import { arrange } from '../../../edit/arrange/arrange.ts';
import { fillNotes } from '../../../edit/arrange/fill-notes.ts';
import {
  barSetting,
  barWords,
  edgesSetting,
  inBars,
  toTheEnd,
} from '../../../edit/arrange/in-bars.ts';
import { barsOf, type Part } from '../../../edit/arrange/laid-out.ts';
import { varied } from '../../../edit/arrange/varied.ts';
import { counted } from '../../../edit/rewrite.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import { eventsFrom } from '../../../smf/event-builder.ts';
import { ok, refused, type Result } from '../../../problems/problems.ts';
import type { Events } from '../../../smf/events.ts';
import { findTrack, trackLabel, withEvents, type Song, type Track } from '../../../song/song.ts';
import { barTick, meterAt } from '../../../timing/meter-map.ts';
import { defineOperation, type Applied, type Change } from '../../operation.ts';
import { sourceSchema } from '../../source-schema.ts';
import { sourceKey, type NamedSource } from '../../sources.ts';

const mostParts = 20_000;

export const barsFill = defineOperation({
  id: 'bars.fill',
  version: 1,
  title: 'Fill bars with a clip',
  summary:
    'Fills bars by repeating others over and over, each time a little otherwise if wanted, with a fill from the shelf in the last. Tempo, meter and markers stay.',
  group: 'bars',
  scope: 'bars',
  settings: z.strictObject({
    from: barSetting('First bar that repeats').default(1),
    to: barSetting('Last bar that repeats').default(1),
    variation: z.int().min(0).max(100).default(0).meta({
      title: 'Variation',
      unit: 'percent',
      description:
        'How much louder or softer notes may be from the second time on; soft ones between the beats may be left out.',
    }),
    seed: z.int().min(0).max(999_999).default(1).meta({ title: 'Seed' }),
    fill: sourceSchema.optional().meta({
      title: 'Fill',
      description: 'A clip whose first bar is played in the last of the bars.',
      offers: 'source',
    }),
    edges: edgesSetting,
  }),
  sources: ({ fill }) => (fill ? [fill] : []),
  apply(song, { from: first, to: last, variation, seed, fill, edges }, scope, sources) {
    const within = inBars(song, scope);
    if (!within.ok) return within;
    const { from, to, bars, tracks } = within.value;
    const invalid = (field: string, expected: string, found: string): Result<Applied> =>
      refused({ code: 'settings-invalid', where: { field: `settings.${field}` }, expected, found });
    if (first > last) return invalid('to', 'a last bar that is not before the first', String(last));
    if (last > bars)
      return refused({ code: 'bars-behind-end', where: { field: 'settings.to' }, bar: last, bars });
    if (fill && tracks.length > 1)
      return invalid('fill', 'one track to play the fill', `${tracks.length} tracks`);
    if ((to - from) / (last - first + 1) > mostParts)
      return invalid(
        'from',
        `bars that repeat at most ${mostParts.toLocaleString('en')} times`,
        `bars ${first} to ${last}`,
      );
    const { map } = barsOf(song);
    const loops = to - (fill ? 1 : 0);
    const parts: Part[] = [{ from: 1, to: from }];
    for (let bar = from; bar < loops; bar += last - first + 1)
      parts.push({ from: first, to: Math.min(last + 1, first + loops - bar) });
    if (fill) parts.push({ empty: 1 });
    parts.push({ from: to, to: Infinity });
    const laid = arrange(song, toTheEnd(parts, bars), {
      tracks,
      edges,
      mapStays: true,
      lengthStays: true,
    });
    if (!laid.ok) return laid;
    const again = { from: barTick(map, from + last - first + 1), to: barTick(map, to) };
    const { beatTicks } = meterAt(map, barTick(map, from));
    const source = fill && sources.get(sourceKey(fill as NamedSource));
    const place = new Map(tracks.map((t, n) => [t.id, n]));
    return withPlayed(song, laid.value, (track) => {
      const n = place.get(track.id);
      if (n === undefined) return undefined;
      const chance = { seed: seed * 1009 + n, beatTicks };
      const { events, leftOut } = varied(track.events, again, variation / 100, chance);
      const played = source ? fillNotes(song, track, source, { from: to - 1, to }) : [];
      const says = [
        leftOut > 0 ? `${counted(leftOut, 'soft note')} left out` : '',
        played.length > 0 ? `a fill of ${counted(played.length / 2, 'note')} in bar ${to - 1}` : '',
      ];
      return {
        events: played.length > 0 ? mergeEvents([eventsFrom(played), events]) : events,
        says: says.filter((w) => w !== ''),
      };
    });
  },
  describe: ({ from, to, fill }, _report, scope) =>
    `Filled ${barWords(scope)} with ${from === to ? `bar ${from}` : `bars ${from}–${to}`}${fill ? ' and a fill' : ''}`,
  examples: [
    {
      says: 'Bars 2 to 4 with bar 1',
      settings: {},
      scope: { tracks: 'all', bars: { from: 2, to: 4 } },
    },
    {
      says: 'Each time a little otherwise',
      settings: { variation: 60, seed: 3 },
      scope: { tracks: 'all', bars: { from: 2, to: 4 } },
    },
  ],
});

/**
 * Bars that are laid, as they are played: each track with what is otherwise there and in words what that is;
 * the report names those that are not as they were.
 */
function withPlayed(
  before: Song,
  { song, report }: Applied,
  play: (track: Track) => { events: Events; says: readonly string[] } | undefined,
): Result<Applied> {
  const laid = new Map(report.changes.map((c) => [c.track, c]));
  const changes: Change[] = [];
  const tracks = song.tracks.map((track): Track => {
    const played = play(track);
    if (!played) return track;
    const made = played.events === track.events ? track : withEvents(track, played.events);
    const was = laid.get(track.id);
    if (made === findTrack(before, track.id)) return made;
    const detail = [was?.detail, ...played.says].filter((w) => w).join('; ');
    changes.push({
      track: track.id,
      name: trackLabel(song, track),
      did: 'changed',
      counts: was?.counts ?? {
        event: Math.max(1, Math.abs(made.events.count - track.events.count)),
      },
      ...(detail ? { detail } : {}),
    });
    return made;
  });
  return ok(
    changes.length === 0
      ? { song: before, report }
      : { song: { ...song, tracks }, report: { ...report, skipped: [], changes } },
  );
}
