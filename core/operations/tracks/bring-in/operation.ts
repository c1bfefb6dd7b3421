import { counted } from '../../../edit/rewrite.ts';
import { withTracks } from '../../../edit/track-list.ts';
import { ok, refused, type Result } from '../../../problems/problems.ts';
import { mostChunks } from '../../../smf/read-chunks.ts';
import { findTrack, trackLabel, type Song, type Track } from '../../../song/song.ts';
import { defineOperation, type Change, type Report } from '../../operation.ts';
import { sourceKey, sourceWords, type NamedSource } from '../../sources.ts';
import { asNewTracks, type Way } from './as-new-tracks.ts';
import { cutOf } from './cut.ts';
import { ontoTracks } from './onto-tracks.ts';
import { partsOf, type Parts } from './part.ts';
import { landingFor, tickOfPlace } from './place.ts';
import { bringInSettings, mapKinds, upgradeBringIn, type BringIn } from './settings.ts';
import { withMapOf } from './song-map.ts';
import { barsApart, longer } from './what-to-know.ts';

export const tracksBringIn = defineOperation({
  id: 'tracks.bring-in',
  version: 4,
  title: 'Bring in from a file or song',
  summary:
    'Takes tracks of another file or song into this one, or its tempos, meters and markers, at any bar, true to the bars or as they sounded. What is not taken stays there, and is told.',
  group: 'tracks',
  scope: 'song',
  settings: bringInSettings,
  upgrade: upgradeBringIn,
  sources: ({ source }) => [source],
  apply(song, asked, _, sources) {
    const cut = cutOf(sources.get(sourceKey(asked.source as NamedSource))!, asked);
    if (!cut.ok) return cut;
    const { song: source, firstBar } = cut.value;
    const chosen = chosenOf(song, source, asked);
    if (!chosen.ok) return chosen;
    const place = tickOfPlace(song, asked, firstBar);
    if (!place.ok) return place;
    const landing = landingFor(song, source, asked, place.value);
    if (!landing.ok) return landing;
    const mapped = withMapOf(song, source, asked, {
      atTick: place.value,
      landing: landing.value.ofMap,
    });
    if (!mapped.ok) return mapped;
    const taken = partsOf(source, chosen.value, asked, cut.value.idle);
    const skipped = [...mapped.value.skipped, ...skippedOf(source, taken)];
    if (song.tracks.length + taken.tracks.length > mostChunks) return tooMany(song, taken.tracks);
    const way = { asked, source, landing: landing.value.ofParts(mapped.value.song) };
    const done = withParts(mapped.value.song, taken.tracks, way, place.value);
    const changes = [...mapped.value.changes, ...done.changes];
    if (changes.length === 0)
      return ok({ song, report: { changes, skipped: [...skipped, ...done.skipped] } });
    const inBars = asked.keep === 'bars' && taken.tracks.length > 0;
    const told = [
      ...mapped.value.told,
      taken.tracks.length > 0 ? cut.value.left : undefined,
      inBars ? barsApart(done.song, source, way.landing, firstBar) : undefined,
      longer(song, done.song),
    ].filter((words) => words !== undefined);
    return ok({
      song: done.song,
      report: {
        changes,
        skipped: [...skipped, ...done.skipped],
        ...(told.length > 0 ? { told } : {}),
      },
      ...(mapped.value.moves ? { moves: mapped.value.moves } : {}),
    });
  },
  describe: ({ source, bars, rows, at, map, onto }, { changes }) => {
    const laid = changes.filter(
      (c) => onto.some(({ to }) => to === c.track) && c.did === 'changed',
    );
    const added = changes.filter((c) => c.did === 'added');
    const kinds = mapKinds.filter((kind) => map[kind] !== 'none');
    const what = [
      added.length === 1 ? added[0]!.name : added.length > 1 ? counted(added.length, 'track') : '',
      laid.length === 0
        ? ''
        : `parts onto ${laid.length === 1 ? laid[0]!.name : counted(laid.length, 'track')}`,
      kinds.join(', '),
    ].filter((words) => words !== '');
    const where = 'own' in at ? '' : 'bar' in at ? ` at bar ${at.bar}` : ` at ${at.timecode}`;
    const part = rows
      ? ', some of its events'
      : !bars
        ? ''
        : bars.from === bars.to
          ? `, its bar ${bars.from}`
          : `, its bars ${bars.from} to ${bars.to}`;
    return `Brought in ${what.join(' and ') || 'nothing'} of ${sourceWords(source)}${part}${where && part ? ',' : ''}${where}`;
  },
  examples: [
    {
      says: 'All of a file, at its own bars',
      settings: { source: { original: '0'.repeat(64), called: 'brass.mid' } },
    },
    {
      says: 'One track of a file at bar 3, as it sounded',
      settings: {
        source: { original: '0'.repeat(64), called: 'brass.mid' },
        tracks: ['t2'],
        at: { bar: 3 },
        keep: 'seconds',
      },
    },
    {
      says: 'Two bars of one track, from bar 5 on',
      settings: {
        source: { original: '0'.repeat(64), called: 'brass.mid' },
        tracks: ['t2'],
        bars: { from: 1, to: 2 },
        at: { bar: 5 },
      },
    },
    {
      says: 'Its tempos, meters and markers alone, the music where it sounds',
      settings: {
        source: { original: '0'.repeat(64), called: 'brass.mid' },
        tracks: 'none',
        map: { tempos: 'replace', meters: 'replace', markers: 'add' },
        music: 'keeps its seconds',
      },
    },
    {
      says: 'The notes of one track onto one that is there, in place of what it plays',
      settings: {
        source: { original: '0'.repeat(64), called: 'brass.mid' },
        tracks: ['t2'],
        take: { controllers: false, mix: false, programs: false, exclusive: false },
        onto: [{ track: 't2', to: 't1', how: 'replace' }],
      },
    },
  ],
});

/** Parts put into a song: onto the tracks that are named for them, the others as tracks of their own. */
function withParts(
  song: Song,
  parts: readonly Track[],
  way: Way,
  atTick: number,
): { song: Song; changes: Change[]; skipped: Report['skipped'] } {
  const { onto, behind } = way.asked;
  const named = new Set(onto.map((o) => o.track));
  const laid = ontoTracks(
    song,
    parts.filter((t) => named.has(t.id)),
    { ...way, atTick },
  );
  const added = asNewTracks(
    laid.song,
    parts.filter((t) => !named.has(t.id)),
    way,
  );
  const skipped = [...laid.skipped, ...added.skipped];
  if (added.tracks.length === 0) return { song: laid.song, changes: laid.changes, skipped };
  const { tracks, nextTrack } = laid.song;
  const at = behind === null ? tracks.length : tracks.findIndex((t) => t.id === behind) + 1;
  const all = [...tracks.slice(0, at), ...added.tracks, ...tracks.slice(at)];
  return {
    song: withTracks(laid.song, all, nextTrack + added.tracks.length),
    changes: [...laid.changes, ...added.changes],
    skipped,
  };
}

const invalid = (field: string, expected: string, found: string): Result<never> =>
  refused({ code: 'settings-invalid', where: { field: `settings.${field}` }, expected, found });

const some = (names: readonly string[]): string =>
  `${names.slice(0, 20).join(', ')}${names.length > 20 ? ' …' : ''}`;

const tooMany = (song: Song, parts: readonly Track[]): Result<never> =>
  invalid(
    'tracks',
    `at most ${mostChunks - song.tracks.length} tracks beside those of the song`,
    `${parts.length}`,
  );

/** The tracks that are taken; refused where settings name one that is in neither of the songs. */
function chosenOf(
  song: Song,
  source: Song,
  { tracks, onto, behind }: BringIn,
): Result<readonly Track[]> {
  const lacking = [...onto.map((o) => o.to), ...(behind === null ? [] : [behind])].filter(
    (id) => !findTrack(song, id),
  );
  if (lacking.length > 0)
    return invalid(
      'onto',
      `tracks of this song: ${some(song.tracks.map((t) => t.id))}`,
      some(lacking),
    );
  const ids = new Set([...(Array.isArray(tracks) ? tracks : []), ...onto.map((o) => o.track)]);
  const known = new Set(source.tracks.map((t) => t.id));
  const unknown = [...ids].filter((id) => !known.has(id));
  if (unknown.length > 0)
    return invalid('tracks', `tracks of the source: ${some([...known])}`, some(unknown));
  if (tracks === 'none') return ok([]);
  return ok(tracks === 'all' ? source.tracks : source.tracks.filter((t) => tracks.includes(t.id)));
}

function skippedOf(source: Song, { empty, left, leftOut }: Parts): Report['skipped'][number][] {
  const [kinds, others] = [left, leftOut].map((of) => [...of].map(([kind, n]) => counted(n, kind)));
  return [
    ...empty.map((t) => ({ name: trackLabel(source, t), why: 'It plays nothing.' })),
    ...(kinds!.length > 0
      ? [{ why: `Not taken, since they are the other song’s own: ${kinds!.join(', ')}.` }]
      : []),
    ...(others!.length > 0 ? [{ why: `Left out, as was asked: ${others!.join(', ')}.` }] : []),
  ];
}
