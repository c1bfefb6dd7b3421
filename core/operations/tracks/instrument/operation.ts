import { ok } from '../../../problems/problems.ts';
import { sentBy } from '../../../instruments/sent-by.ts';
import { soundName } from '../../../instruments/sounds.ts';
import { spanOf, tracksIn } from '../../../song/scope.ts';
import { tracksFault } from '../../../edit/named-rows.ts';
import { counted } from '../../../edit/rewrite.ts';
import { findTrack, type Track } from '../../../song/song.ts';
import { defineOperation, type Change } from '../../operation.ts';
import { withCopies } from './copies.ts';
import { give } from './give.ts';
import type { Given } from './given.ts';
import { partsOf } from './parts.ts';
import { resetsIn } from './sound-of.ts';
import { instrumentSettings, type InstrumentSettings } from './settings.ts';

export const tracksInstrument = defineOperation({
  id: 'tracks.instrument',
  version: 1,
  title: 'Give an instrument',
  summary:
    'Says what plays a part: bank and program at its start, or at the first of the bars, and none of those it had; no other part sounds different. Tells what was written for the sound before.',
  group: 'tracks',
  scope: 'events',
  settings: instrumentSettings,
  apply(song, asked, scope) {
    const settings = bySound(asked);
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    const span = spanOf(song, scope);
    if (!span.ok) return span;
    const unknown =
      settings.each.length > 0 &&
      tracksFault(
        song,
        settings.each.map((e) => e.track),
        'settings.each',
      );
    if (unknown) return unknown;
    const resets = resetsIn(song);
    const start = { song, changes: [], skipped: [] };
    const done = soundsFor(inScope.value, settings).reduce<Given>((now, { ids, ...sound }) => {
      const its = { ...settings, ...sound };
      const begun = its.beside
        ? withCopies(
            now,
            ids.map((id) => findTrack(now.song, id)!),
            calledAs(its),
          )
        : { given: now, ids };
      const { given, groups } = partsOf(begun.given, begun.ids, its);
      const inside = new Set(begun.ids);
      return groups.reduce(
        (so, group) => give(so, group, { settings: its, span: span.value, resets, inside }),
        given,
      );
    }, start);
    const report = { changes: done.changes, skipped: done.skipped };
    return ok({ song: done.changes.length === 0 ? song : done.song, report });
  },
  describe: (asked, { changes }) => {
    const { drums, beside, each, ...its } = bySound(asked);
    if (each.length > 0) return `Gave ${counted(playing(changes).length, 'track')} what plays them`;
    const called = calledAs({ drums, ...its });
    const given = playing(changes);
    const who = given.length === 1 ? given[0]!.name : `${given.length} tracks`;
    return beside ? `Put ${called} beside, as ${who}` : `Gave ${who} ${called}`;
  },
  examples: [
    { says: 'A flute', settings: { program: 74 } },
    { says: 'Drums', settings: { drums: true } },
    {
      says: 'One of one’s own',
      settings: {
        definition: { name: 'Low whistle', program: 79, sends: { program: 12, bank: 130 } },
      },
    },
    { says: 'Strings beside it', settings: { program: 49, beside: true } },
    {
      says: 'Each its own, and its name',
      settings: {
        each: [
          { track: 't1', program: 33 },
          { track: 't2', program: 1, drums: true },
        ],
        named: true,
      },
    },
    {
      says: 'Of two bars, and what was written for the sound before parked',
      settings: { program: 12, settle: true },
      scope: { tracks: 'all', bars: { from: 1, to: 2 } },
    },
  ],
});

const calledAs = ({
  program,
  drums,
  definition,
}: Pick<InstrumentSettings, 'program' | 'drums' | 'definition'>): string =>
  definition?.name ?? soundName({ program: program - 1, bank: null }, drums);

/** A definition says itself which program, bank and channel choose it; what is said by track counts for itself. */
function bySound(settings: InstrumentSettings): InstrumentSettings {
  const { definition, each } = settings;
  if (!definition) return settings;
  if (each.length > 0) return { ...settings, definition: null };
  const { program, bank } = sentBy(definition);
  return { ...settings, program: program + 1, bank, drums: definition.drums };
}

const playing = (changes: readonly Change[]): Change[] =>
  changes.filter((c) => c.detail?.startsWith('plays '));

/**
 * What is to play which tracks: one thing for all, or each what is said of it; those of one sound together,
 * since they may share a channel.
 */
function soundsFor(
  tracks: readonly Track[],
  { program, drums, each }: Pick<InstrumentSettings, 'program' | 'drums' | 'each'>,
): readonly { program: number; drums: boolean; ids: readonly string[] }[] {
  if (each.length === 0) return [{ program, drums, ids: tracks.map((t) => t.id) }];
  const inScope = new Set(tracks.map((t) => t.id));
  const sounds = new Map<string, { program: number; drums: boolean; ids: string[] }>();
  for (const one of each) {
    if (!inScope.has(one.track)) continue;
    const key = `${one.program} ${one.drums}`;
    const sound = sounds.get(key) ?? { program: one.program, drums: one.drums, ids: [] };
    sounds.set(key, sound);
    if (!sound.ids.includes(one.track)) sound.ids.push(one.track);
  }
  return [...sounds.values()];
}
