import { anchored } from '../../../edit/anchor.ts';
import { editMap, meterEvent } from '../../../edit/edit-map.ts';
import { editMarks, sectionMarks } from '../../../edit/edit-marks.ts';
import { withMeters, type Metered } from '../../../edit/meter-music.ts';
import type { Change } from '../../../edit/report.ts';
import { meta } from '../../../smf/events.ts';
import type { Song } from '../../../song/song.ts';
import { timingOf } from '../../../song/timing-of.ts';
import type { Anchor, MarkKind } from '../../../timing/marks.ts';

/** What a list of places holds, by tick. */
export interface Listed {
  readonly marks: readonly {
    readonly atTick: number;
    readonly kind: MarkKind;
    readonly text: string;
    readonly anchor: Anchor;
  }[];
  readonly tempos: readonly { readonly atTick: number; readonly bpm: number }[];
  readonly meters: readonly {
    readonly atTick: number;
    readonly numerator: number;
    readonly denominator: number;
  }[];
  readonly keys: readonly {
    readonly atTick: number;
    readonly sharps: number;
    readonly minor: boolean;
  }[];
  readonly sections: readonly {
    readonly name: string;
    readonly fromTick: number;
    readonly toTick: number;
  }[];
  readonly instead: boolean;
}

/** The song with the meters of a list: they come first, since its other places are counted by them. */
export function withMetersOf(
  song: Song,
  { meters, instead }: Listed,
  way: Parameters<typeof withMeters>[2],
): Metered {
  const ticks = new Set(meters.map((m) => m.atTick));
  const edited = editMap(
    song,
    (type, at) => type === meta.timeSignature && meters.length > 0 && (instead || ticks.has(at)),
    meters.map((m) => meterEvent(m.atTick, m.numerator, m.denominator)),
    'place',
  );
  return withMeters(song, edited, way);
}

/** The places of a list where the song's bars are now. */
export function placedBy(
  placed: (tick: number) => number,
  { marks, tempos, keys, sections }: Listed,
): Omit<Listed, 'meters' | 'instead'> {
  const at = <T extends { readonly atTick: number }>(list: readonly T[]): T[] =>
    list.map((place) => ({ ...place, atTick: placed(place.atTick) }));
  return {
    marks: at(marks),
    tempos: at(tempos),
    keys: at(keys),
    sections: sections.map((s) => ({
      ...s,
      fromTick: placed(s.fromTick),
      toTick: placed(s.toTick),
    })),
  };
}

/** What two edits did, a line for each track. */
export function mergeChanges(first: readonly Change[], then: readonly Change[]): Change[] {
  const more = new Map(then.map((c) => [c.track, c]));
  const both = first.map((c) => {
    const other = more.get(c.track);
    more.delete(c.track);
    const place = (c.counts.place ?? 0) + (other?.counts.place ?? 0);
    return other ? { ...c, counts: { ...c.counts, place } } : c;
  });
  return [...both, ...more.values()];
}

const nameOf = (m: {
  readonly kind: string;
  readonly atTick: number;
  readonly text: string;
}): string => `${m.kind} ${m.atTick} ${m.text}`;

/** The song with the marks and sections of a list, in place of those that stand where they come, or of all. */
export function withListedMarks(
  song: Song,
  { marks, sections, instead }: Pick<Listed, 'marks' | 'sections' | 'instead'>,
): ReturnType<typeof editMarks> {
  const of = anchored(song);
  const timing = timingOf(song);
  const placed = new Set(
    marks.flatMap((m) => (instead ? [`${m.kind} ${m.atTick}`, m.kind] : [`${m.kind} ${m.atTick}`])),
  );
  // What stands as the list says stays where it is, in whatever track.
  const standing = [...timing.markers, ...timing.cuePoints, ...timing.texts];
  const [listed, had] = [marks, standing].map((list) => new Set(list.map(nameOf))) as [
    Set<string>,
    Set<string>,
  ];
  const spans = new Set(sections.map((s) => `${s.name} ${s.fromTick}`));
  const gone = [
    ...standing.filter(
      (m) => (placed.has(`${m.kind} ${m.atTick}`) || placed.has(m.kind)) && !listed.has(nameOf(m)),
    ),
    ...timing.sections
      .filter((s) => (instead && sections.length > 0) || spans.has(`${s.name} ${s.fromTick}`))
      .flatMap((s) => s.marks),
  ];
  const come = [
    ...marks
      .filter((m) => !had.has(nameOf(m)))
      .map(({ anchor, ...m }) => ({ ...m, travels: true, ...of(m.atTick, anchor) })),
    ...sections.flatMap((s) => sectionMarks({ ...s, travels: true })),
  ];
  return editMarks(song, gone, come, { kind: 'place' });
}
