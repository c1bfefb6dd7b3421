import { ok } from '../../../problems/problems.ts';
import { soundName } from '../../../instruments/sounds.ts';
import { spanOf, tracksIn } from '../../../song/scope.ts';
import { defineOperation } from '../../operation.ts';
import { withCopies } from './copies.ts';
import { give } from './give.ts';
import { partsOf } from './parts.ts';
import { instrumentSettings } from './settings.ts';

export const tracksInstrument = defineOperation({
  id: 'tracks.instrument',
  version: 1,
  title: 'Give an instrument',
  summary:
    'Says what plays a part: bank and program at its start, or at the first of the bars, and none of those it had; no other part sounds different. Tells what was written for the sound before.',
  group: 'tracks',
  scope: 'events',
  settings: instrumentSettings,
  apply(song, settings, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    const span = spanOf(song, scope);
    if (!span.ok) return span;
    const start = { song, changes: [], skipped: [] };
    const begun = settings.beside
      ? withCopies(start, inScope.value)
      : { given: start, ids: inScope.value.map((t) => t.id) };
    const { given, groups } = partsOf(begun.given, begun.ids, settings);
    const inside = new Set(begun.ids);
    const done = groups.reduce(
      (now, group) => give(now, group, { settings, span: span.value, inside }),
      given,
    );
    const report = { changes: done.changes, skipped: done.skipped };
    return ok({ song: done.changes.length === 0 ? song : done.song, report });
  },
  describe: ({ program, drums, beside }, { changes }) => {
    const called = soundName({ program: program - 1, bank: null }, drums);
    const given = changes.filter((c) => c.detail?.startsWith('plays '));
    const who = given.length === 1 ? given[0]!.name : `${given.length} tracks`;
    return beside ? `Put ${called} beside, as ${who}` : `Gave ${who} ${called}`;
  },
  examples: [
    { says: 'A flute', settings: { program: 74 } },
    { says: 'Drums', settings: { drums: true } },
    { says: 'Strings beside it', settings: { program: 49, beside: true } },
    {
      says: 'Of two bars, and what was written for the sound before parked',
      settings: { program: 12, settle: true },
      scope: { tracks: 'all', bars: { from: 1, to: 2 } },
    },
  ],
});
