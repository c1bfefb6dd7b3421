import { z } from 'zod';
import { asOneRun, overlapping } from '../../../edit/arrange/as-one-run.ts';
import { countKinds } from '../../../edit/event-kinds.ts';
import { withTracks } from '../../../edit/track-list.ts';
import { ok, refused } from '../../../problems/problems.ts';
import { endTick } from '../../../smf/events.ts';
import { tracksIn } from '../../../song/scope.ts';
import { trackLabel, trackName, type Song, type Track } from '../../../song/song.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { factsOf } from '../../../song/track-facts.ts';
import { defineOperation, type Change } from '../../operation.ts';

/** Why tracks cannot be joined, if they cannot. */
function whyNot(
  song: Song,
  groups: readonly (readonly Track[])[],
): { readonly expected: string; readonly found: string } | undefined {
  const parked = groups
    .filter((g) => g.length > 1)
    .flat()
    .find((t) => t.parked);
  if (parked) return { expected: 'tracks without parked lanes', found: trackLabel(song, parked) };
  const clash = groups.map(overlapping).find((c) => c !== undefined);
  return (
    clash && {
      expected: 'tracks that play one after the other, or on one channel',
      found: `${trackLabel(song, clash.track)}, which begins while another still plays on a channel of its own`,
    }
  );
}

export const tracksJoin = defineOperation({
  id: 'tracks.join',
  version: 1,
  title: 'Join pieces into one run',
  summary:
    'Makes one track of tracks that play one after the other: from bar 1 to the end of the song, gaps staying gaps, each piece sounding as it did.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({
    which: z.enum(['all into one', 'those of one name']).default('all into one').meta({
      title: 'Which become one',
      description: '“those of one name”: each name of the chosen tracks becomes one track.',
    }),
  }),
  apply(song, { which }, scope) {
    const wanted = tracksIn(song, scope);
    if (!wanted.ok) return wanted;
    const groups = groupsOf(song, wanted.value, which === 'those of one name');
    const why = whyNot(song, groups);
    if (why) return refused({ code: 'settings-invalid', where: { field: 'scope.tracks' }, ...why });
    const end = timingOf(song).endTick;
    const joined = new Map<string, Track>();
    const gone = new Set<string>();
    const changes: Change[] = [];
    const merged: Change[] = [];
    for (const group of groups) {
      const [home, ...others] = group as [Track, ...Track[]];
      if (others.length === 0 && endTick(home.events) === end) continue;
      const run = asOneRun(group, end);
      joined.set(home.id, run);
      const name = trackLabel(song, home);
      changes.push({
        track: home.id,
        name,
        did: 'changed',
        counts: { event: Math.max(1, run.events.count - home.events.count) },
        detail:
          others.length === 0 ? 'now ends with the song' : `one run of ${group.length} tracks`,
      });
      for (const other of others) {
        gone.add(other.id);
        merged.push({
          track: other.id,
          name: trackLabel(song, other),
          did: 'removed',
          counts: countKinds(other.events),
          detail: `now in ${name}`,
        });
      }
    }
    if (changes.length === 0)
      return ok({
        song,
        report: {
          changes: [],
          skipped: [{ why: 'Each is one run to the end of the song already.' }],
        },
      });
    const tracks = song.tracks.filter((t) => !gone.has(t.id)).map((t) => joined.get(t.id) ?? t);
    return ok({
      song: withTracks(song, tracks),
      report: { changes: [...changes, ...merged], skipped: [] },
    });
  },
  describe: (_settings, { changes }) => {
    const gone = changes.filter((c) => c.did === 'removed').length;
    const runs = changes.length - gone;
    return gone === 0
      ? `Let ${runs === 1 ? changes[0]!.name : `${runs} tracks`} run to the end of the song`
      : `Joined ${gone + runs} tracks into ${runs === 1 ? changes[0]!.name : runs}`;
  },
  examples: [
    { says: 'Each name one track', settings: { which: 'those of one name' } },
    { says: 'Two tracks', settings: {}, scope: { tracks: ['t2', 't3'] } },
  ],
});

/** Tracks that are to become one, in the song's order; of those that play nothing none. */
function groupsOf(song: Song, tracks: readonly Track[], byName: boolean): Track[][] {
  const playing = tracks.filter((t) => factsOf(t).channels !== 0);
  if (!byName) return playing.length === 0 ? [] : [playing];
  const named = new Map<string, Track[]>();
  for (const track of playing) {
    const name = trackName(track, song.encoding);
    const key = name === '' ? track.id : name;
    named.set(key, [...(named.get(key) ?? []), track]);
  }
  return [...named.values()];
}
