import { ticksToSeconds, tempoAt, tempoMap } from '../../timing/tempo-map.ts';
import { bpmToTempo } from '../../units/units.ts';
import type { Difference } from './compare-ticks.ts';
import type { PartCase } from './part-case.ts';
import { kindOf, type EventKind } from './reading/event-kind.ts';
import { readSongMap } from './reading/song-map.ts';
import { outlineTrack } from './reading/track-outline.ts';

/** A value that holds from a tick on. */
interface Change {
  readonly at: number;
  readonly value: string;
}

/** The tempo, meter and key that hold at every place between two changes, whatever events say so. */
export function verifyMap(of: PartCase): Difference[] {
  const { song, leaving, wanted } = of;
  const { take, form } = wanted;
  const [there, here] = [readSongMap(song), readSongMap(leaving)];
  const meters = (list: typeof there.meters) =>
    list.map((m) => ({ atTick: m.atTick, value: `${m.numerator}/${m.denominator}` }));
  const keys = (list: typeof there.keys) => list.map((k) => ({ atTick: k.atTick, value: k.said }));
  return [
    ...(take.tempo ? verifyTempo(of) : hasNone(of, 'tempo')),
    ...(take.meters && form.tempo !== 'one, as it sounds'
      ? holding(of, 'meter', [meters(there.meters), meters(here.meters)], '4/4')
      : []),
    ...(take.keys ? holding(of, 'key signature', [keys(there.keys), keys(here.keys)]) : []),
  ];
}

function hasNone({ leaving }: PartCase, kind: EventKind): Difference[] {
  return leaving.tracks.flatMap(({ id, events }) => {
    if (!outlineTrack(events).saysOfSong) return [];
    for (let row = 0; row < events.count; row++)
      if (kindOf(events, row) === kind)
        return [{ state: 'has', owner: id, what: kind, tick: events.atTick[row]! } as const];
    return [];
  });
}

function verifyTempo(of: PartCase): Difference[] {
  const { song, leaving, wanted } = of;
  const { form } = wanted;
  const { tempos } = readSongMap(song);
  const found = readSongMap(leaving).tempos;
  const values = (list: typeof tempos) =>
    list.map((t) => ({ atTick: t.atTick, value: `${t.tempo}` }));
  if (song.division.kind === 'smpte')
    return form.ppq === null
      ? holding(of, 'tempo', [values(tempos), values(found)], '500000')
      : holding(of, 'tempo', [[], values(found)], '500000');
  if (form.tempo !== 'as it is') return verifyOneTempo(of);
  if (form.steps) return verifySteps(of, form.steps);
  return holding(of, 'tempo', [values(tempos), values(found)], '500000');
}

/** One tempo throughout: the one asked for, the first, or that in which all lasts as long. */
function verifyOneTempo(of: PartCase): Difference[] {
  const { song, leaving, wanted, places } = of;
  const { form } = wanted;
  const { from } = places.span;
  const map = tempoMap(readSongMap(song).tempos, song.division);
  const found = tempoMap(readSongMap(leaving).tempos, leaving.division);
  const only = found.tempos[0]!;
  const others = found.tempos.findIndex((tempo) => tempo !== only);
  const end = readSongMap(leaving).lastTick;
  const [start, last] = [ticksToSeconds(map, from), places.at(from + 1, 0)];
  const asked =
    form.bpm !== null
      ? bpmToTempo(form.bpm)
      : form.tempo === 'one, as it sounds'
        ? tempoAt(map, from)
        : undefined;
  const differences: Difference[] = [];
  if (others > 0) differences.push(wrongTempo(found.tempos[others]!, found.ticks[others]!, only));
  if (asked !== undefined && only !== asked) differences.push(wrongTempo(only, 0, asked));
  if (asked === undefined && end > 0 && places.times === 1 && places.reach === 0) {
    // What rings over the last bar does so at the tempo that holds there.
    const upTo = Math.min(from + end / last, places.span.to);
    const ringing = end - (upTo - from) * last;
    const lasts =
      ticksToSeconds(map, upTo) -
      start +
      (ringing * tempoAt(map, Math.max(from, upTo - 1e-6))) / found.scale;
    // Whole microseconds a quarter: half of one for each quarter, and a tick at the end.
    const quarters = (end * found.scale) / 1e6 / found.scale;
    const rounding = (quarters + only / 1e6) * 1e-3 + lasts * 1e-5;
    if (Math.abs(lasts - ticksToSeconds(found, end)) > rounding)
      differences.push(
        wrongTempo(only, 0, Math.round((lasts / ticksToSeconds(found, end)) * only)),
      );
  }
  return differences;
}

const wrongTempo = (tempo: number, tick: number, expected: number): Difference => ({
  state: 'has',
  owner: 'song',
  what: `tempo ${tempo} instead of ${expected}`,
  tick,
});

/** Fewer steps: at each tempo of the song the file is no further off in time than was allowed. */
function verifySteps(
  { song, leaving, places }: PartCase,
  { error, perSecond }: { error: number; perSecond: number | null },
): Difference[] {
  if (perSecond !== null || places.reach > 0) return [];
  const map = tempoMap(readSongMap(song).tempos, song.division);
  const found = tempoMap(readSongMap(leaving).tempos, leaving.division);
  const { from, to } = places.span;
  const start = ticksToSeconds(map, from);
  const differences: Difference[] = [];
  for (const tick of map.ticks) {
    if (tick < from || tick >= to) continue;
    const off = ticksToSeconds(found, places.at(tick, 0)) - (ticksToSeconds(map, tick) - start);
    if (Math.abs(off) * 1000 <= error + 0.01) continue;
    const what = `tempo that is ${(off * 1000).toFixed(2)} ms off instead of ${error} at most`;
    differences.push({ state: 'has', owner: 'song', what, tick: places.at(tick, 0) });
  }
  return differences;
}

type Values = readonly { readonly atTick: number; readonly value: string }[];

/** Where another value holds than has to, in the middle of each stretch between two changes. */
function holding(
  { places, leaving }: PartCase,
  kind: EventKind,
  [there, here]: readonly [Values, Values],
  otherwise?: string,
): Difference[] {
  const expected = placed(there, places, otherwise);
  const found: Change[] = [
    ...(otherwise === undefined ? [] : [{ at: 0, value: otherwise }]),
    ...here.map((v) => ({ at: v.atTick, value: v.value })),
  ];
  const end = Math.max(readSongMap(leaving).lastTick, 1);
  const edges = [...new Set([...expected, ...found].map((c) => c.at).concat(0, end))]
    .filter((at) => at <= end)
    .sort((a, b) => a - b);
  const differences: Difference[] = [];
  for (let n = 1, e = 0, f = 0; n < edges.length; n++) {
    const [low, high] = [edges[n - 1]!, edges[n]!];
    while (e < expected.length && expected[e]!.at <= low) e++;
    while (f < found.length && found[f]!.at <= low) f++;
    if (high - low <= 2 * places.reach + (places.reach > 0 ? 1 : 0)) continue;
    const [must, is] = [expected[e - 1]?.value, found[f - 1]?.value];
    if (must !== undefined && must !== is)
      differences.push({
        state: 'has',
        owner: 'song',
        what: `${kind} ${is ?? 'none'} instead of ${must}`,
        tick: low,
      });
  }
  return differences;
}

/** The changes of a song where they have to stand: each time begins with what holds there. */
function placed(list: Values, places: PartCase['places'], otherwise?: string): Change[] {
  const { from, to } = places.span;
  const before = list.findLast((v) => v.atTick <= from)?.value ?? otherwise;
  const changes: Change[] = [];
  for (let time = 0; time < places.times; time++) {
    if (before !== undefined) changes.push({ at: places.at(from, time), value: before });
    for (const { atTick, value } of list)
      if (atTick > from && atTick < to) changes.push({ at: places.at(atTick, time), value });
  }
  return changes;
}
