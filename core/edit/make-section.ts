import { ok, refused, type Result } from '../problems/problems.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { editMarks, sectionMarks } from './edit-marks.ts';
import { tickOfPlace } from './place-setting.ts';
import type { Applied } from './report.ts';

export interface SectionMeant {
  readonly name: string;
  /** Where it begins. */
  readonly bar: number;
  readonly beat: number;
  /** The last bar that belongs to it whole. */
  readonly lastBar: number;
  readonly travels: boolean;
  readonly remove: boolean;
}

/** A section over whole bars, as its markers; or one of that name that begins there taken out. */
export function makeSection(
  song: Song,
  { name, bar, beat, lastBar, travels, remove }: SectionMeant,
): Result<Applied> {
  const from = tickOfPlace(song, { bar, beat, tick: 0 });
  if (!from.ok) return from;
  const there = timingOf(song).sections.filter((s) => s.name === name && s.fromTick === from.value);
  const gone = there.flatMap((s) => s.marks);
  const to = remove
    ? from
    : tickOfPlace(song, { bar: lastBar + 1, beat: 1, tick: 0 }, 'settings.lastBar');
  if (!to.ok) return to;
  if (!remove && to.value <= from.value)
    return refused({
      code: 'settings-invalid',
      where: { field: 'settings.lastBar' },
      expected: `bar ${bar} or one behind it`,
      found: `${lastBar}`,
    });
  // A marker of that name where the section begins becomes its beginning.
  const plain = timingOf(song).markers.filter((m) => m.text === name && m.atTick === from.value);
  const come = remove
    ? []
    : sectionMarks({ name, fromTick: from.value, toTick: to.value, travels });
  const edited = editMarks(song, [...gone, ...(remove ? [] : plain)], come, { kind: 'section' });
  if (!edited.ok) return edited;
  const { changes } = edited.value;
  const skipped =
    changes.length === 0
      ? [{ why: remove ? 'No section of that name begins there.' : 'It stands there already.' }]
      : [];
  const counted = changes.map((c) => ({
    ...c,
    counts: { section: Math.max(1, Math.round((c.counts.section ?? 0) / 2)) },
  }));
  return ok({ song: edited.value.song, report: { changes: counted, skipped } });
}
